package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.redact.Redactor;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * What went over the connection, byte for byte, but for what is masked.
 *
 * @param redactor what masks credentials and secrets; empty for the very bytes
 */
public record WireBytes(Optional<Redactor> redactor) {
    /** What is masked at a time, so that a long message needs no more memory than a short one. */
    private static final int PIECE = 8 << 20;

    /** A piece ends behind an element or a line that ends within so many of its last bytes, lest it cut a value in two. */
    private static final int SEAM = 64 << 10;

    /** The bytes of one side. */
    public Content of(Message message) {
        Content wire = message.wire();
        if (redactor.isEmpty() || wire.isEmpty()) {
            return wire;
        }
        if (wire.size() <= PIECE) {
            return masked(wire.bytes(), redactor.get()::wire).map(Content::of).orElse(wire);
        }
        try {
            return inPieces(wire, redactor.get());
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
    }

    private static Content inPieces(Content wire, Redactor redactor) throws IOException {
        ContentSink sink = new ContentSink();
        try (InputStream in = wire.open()) {
            UnaryOperator<String> mask = redactor::wire;
            byte[] held = new byte[0];
            while (true) {
                byte[] come = in.readNBytes(PIECE - held.length);
                byte[] piece = Arrays.copyOf(held, held.length + come.length);
                System.arraycopy(come, 0, piece, held.length, come.length);
                if (piece.length == 0) {
                    return sink.content();
                }
                int end = come.length == 0 ? piece.length : seam(piece);
                byte[] part = Arrays.copyOf(piece, end);
                sink.write(masked(part, mask).orElse(part));
                held = Arrays.copyOfRange(piece, end, piece.length);
                // the head was in the first
                mask = redactor::message;
            }
        }
    }

    private static int seam(byte[] piece) {
        for (int i = piece.length; i > Math.max(0, piece.length - SEAM); i--) {
            if (piece[i - 1] == '>' || piece[i - 1] == '\n') {
                return i;
            }
        }
        return piece.length;
    }

    /** Empty when there is nothing to mask. */
    private static Optional<byte[]> masked(byte[] bytes, UnaryOperator<String> mask) {
        Charset charset = isUtf8(bytes) ? StandardCharsets.UTF_8 : StandardCharsets.ISO_8859_1;
        String text = new String(bytes, charset);
        String shown = mask.apply(text);
        if (shown.equals(text)) {
            return Optional.empty();
        }
        if (charset.equals(StandardCharsets.ISO_8859_1)) {
            // each character is a byte here, which the mark of a masking is not
            shown = shown.replace(Redactor.MASK, new String(Redactor.MASK.getBytes(StandardCharsets.UTF_8), charset));
        }
        return Optional.of(shown.getBytes(charset));
    }

    private static boolean isUtf8(byte[] bytes) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
            return true;
        } catch (CharacterCodingException other) {
            return false;
        }
    }
}
