/**
 * The one way to make a request, for a single call, a suite, load, copying out and the command line. In: an operation at a
 * port, the texts of a case, values for their expressions; out: a {@link dev.mockbell.wire.CallRequest}. Stages do it one
 * after the other, each of which says whether what it makes can change.
 */
package dev.mockbell.request;
