/** Contracts, samples and calls tried against services on SOAP stacks that others wrote. */
package dev.mockbell.peers;
