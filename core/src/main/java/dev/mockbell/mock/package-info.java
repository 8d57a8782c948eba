/**
 * Stands in for a service. In: a contract and answers; out: a host on a local port that answers and tells what it did.
 */
package dev.mockbell.mock;
