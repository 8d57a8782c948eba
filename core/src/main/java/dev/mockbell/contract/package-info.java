/**
 * Reads a WSDL with all that it brings along. In: an address or file; out: a {@link dev.mockbell.contract.Contract} with its findings and documents.
 */
package dev.mockbell.contract;
