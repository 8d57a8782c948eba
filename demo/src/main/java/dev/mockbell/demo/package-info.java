/**
 * The Northfell Huts: live services served by a SOAP stack that others wrote, and a project that uses them. In: a port;
 * out: addresses.
 */
package dev.mockbell.demo;
