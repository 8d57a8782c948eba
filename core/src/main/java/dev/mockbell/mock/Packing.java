package dev.mockbell.mock;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.zip.GZIPOutputStream;

/** Answers packed with gzip, for clients that take them so. */
final class Packing {
    /** A smaller answer is as large when it is packed. */
    private static final int WORTH = 1_400;

    private Packing() {}

    static boolean isWorth(byte[] body) {
        return body.length >= WORTH;
    }

    /** RFC 9110 §12.5.3, as far as gzip goes. */
    static boolean isTaken(String accepts) {
        if (accepts == null) {
            return false;
        }
        for (String one : accepts.split(",")) {
            String[] parts = one.strip().split("\\s*;\\s*");
            if (parts[0].equalsIgnoreCase("gzip") || parts[0].equals("*")) {
                return parts.length < 2 || !parts[1].matches("q=0(\\.0*)?");
            }
        }
        return false;
    }

    static byte[] gzip(byte[] bytes) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(bytes.length / 4 + 64);
        try (GZIPOutputStream packing = new GZIPOutputStream(out)) {
            packing.write(bytes);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return out.toByteArray();
    }
}
