/**
 * Envelopes of SOAP 1.1 and 1.2. In: a payload; out: bytes for the wire, and the reverse with faults understood.
 */
package dev.mockbell.soap;
