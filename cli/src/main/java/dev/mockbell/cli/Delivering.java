package dev.mockbell.cli;

import dev.mockbell.choice.Choice;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Attachment;
import dev.mockbell.request.Delivery;
import dev.mockbell.soap.Addressing;
import dev.mockbell.wire.Framing;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Option;

/** The options that say how a request is delivered, beside what it says. */
final class Delivering {
    @Option(
            names = "--addressing",
            paramLabel = "VERSION",
            description = "Speaks WS-Addressing 1.0 or 2004/08, or none; as the contract demands otherwise.")
    private String addressing;

    @Option(
            names = "--reply-to",
            paramLabel = "ADDRESS",
            description = "Where a WS-Addressing answer goes; the way that the request came otherwise.")
    private String replyTo;

    @Option(names = "--charset", paramLabel = "NAME", description = "Encodes the envelope so (UTF-8).")
    private String charset;

    @Option(names = "--compress", paramLabel = "CODING", description = "Compresses the body by gzip or deflate.")
    private String compress;

    @Option(names = "--chunked", description = "Sends the body in chunks, in place of with its length.")
    private boolean chunked;

    @Option(names = "--expect-continue", description = "Sends the head first, and the body once the server wants it.")
    private boolean expectContinue;

    @Option(
            names = "--follow",
            description = "Goes on to where the answer leads; to another server without logins and certificates.")
    private boolean follow;

    @Option(
            names = "--attach",
            paramLabel = "CID=FILE",
            description =
                    "Sends a file beside the envelope; a binary value cid:CID becomes its place; may be repeated.")
    private Map<String, Path> attach = Map.of();

    @Option(
            names = "--inline-up-to",
            paramLabel = "KB",
            description = "Files up to that size go within the envelope where a binary value is cid:CID (0).")
    private Integer inlineKilobytes;

    /** What a case says of it, changed as the options say. */
    Delivery over(Delivery kept) {
        Delivery d = kept;
        d = addressing == null ? d : d.with(one(Addressing.class, addressing, "--addressing"));
        d = replyTo == null ? d : d.replyingTo(replyTo);
        d = charset == null ? d : d.in(charset);
        d = compress == null ? d : d.with(one(Delivery.Compression.class, compress, "--compress"));
        d = d.with(new Framing(
                chunked || d.framing().chunked(), expectContinue || d.framing().expectsContinue()));
        d = inlineKilobytes == null ? d : d.inliningUpTo(Math.max(0, inlineKilobytes));
        return d.following(follow || d.follows());
    }

    /** The one of a code that an option gives. */
    static <E extends Enum<E> & Choice> E one(Class<E> kind, String code, String option) {
        E found = Choice.of(kind, code, null);
        if (found == null) {
            String all =
                    Arrays.stream(kind.getEnumConstants()).map(Choice::code).collect(Collectors.joining(", "));
            throw Problem.input("“" + code + "” is no choice for " + option, null, "There are: " + all + ".");
        }
        return found;
    }

    /** Files that go along. */
    List<Attachment> parts() {
        return attach.entrySet().stream()
                .map(e -> Attachment.of(e.getKey(), e.getValue()))
                .toList();
    }
}
