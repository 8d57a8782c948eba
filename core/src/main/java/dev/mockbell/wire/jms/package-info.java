/**
 * SOAP over Java Message Service 1.0: messages by way of a broker's queues and topics. In: a request to a {@code jms:} address;
 * out: what came back, or why nothing did. The broker's client is loaded when it is needed first.
 */
package dev.mockbell.wire.jms;
