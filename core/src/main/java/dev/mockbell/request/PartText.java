package dev.mockbell.request;

/**
 * A file that goes with a request, as a case keeps it.
 *
 * @param id what the envelope refers to it by, without angle brackets: {@code cid:ID} (RFC 2392)
 * @param file of the project
 * @param type its Content-Type; empty to tell it by the name
 */
public record PartText(String id, String file, String type) {}
