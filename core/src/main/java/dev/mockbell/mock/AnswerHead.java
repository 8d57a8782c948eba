package dev.mockbell.mock;

import dev.mockbell.content.Header;
import java.util.List;

/**
 * What goes with an answer beside its content.
 *
 * @param status of HTTP; 0 for the one that SOAP has for the content
 * @param fields of HTTP, in place of those of the same name; values with expressions in braces
 * @param blocks header blocks of the envelope, XML with expressions in braces; in place of the samples of those that the contract
 *     declares. Empty for the samples
 * @param parts files that go beside the envelope
 */
public record AnswerHead(int status, List<Header> fields, String blocks, List<AnswerPart> parts) {
    /** As the contract and SOAP have it. */
    public static final AnswerHead USUAL = new AnswerHead(0, List.of(), "", List.of());

    public AnswerHead {
        fields = List.copyOf(fields);
        parts = List.copyOf(parts);
    }

    public AnswerHead withStatus(int other) {
        return new AnswerHead(other, fields, blocks, parts);
    }

    public AnswerHead withFields(List<Header> other) {
        return new AnswerHead(status, other, blocks, parts);
    }

    public AnswerHead withBlocks(String other) {
        return new AnswerHead(status, fields, other, parts);
    }

    public AnswerHead withParts(List<AnswerPart> other) {
        return new AnswerHead(status, fields, blocks, other);
    }

    /**
     * A file beside the envelope, sent as XOP where the envelope includes it (SOAP MTOM §4), else as SOAP with Attachments.
     *
     * @param id its Content-ID, without angle brackets
     * @param file a path within the project's folder
     * @param type its Content-Type; empty to tell by its name
     */
    public record AnswerPart(String id, String file, String type) {}
}
