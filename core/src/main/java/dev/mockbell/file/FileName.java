package dev.mockbell.file;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Set;

/**
 * Names of any kind, such as those of operations, as names of files and folders: never a path, never hidden, never too
 * long, the same on every system. Characters that cannot stand in a name are percent-encoded as UTF-8 (RFC 3986 §2.1), so
 * that the name can be read back.
 */
public final class FileName {
    /** In bytes; file systems take 255, and there are endings to come. */
    private static final int LONGEST = 180;

    private static final String FORBIDDEN = "/\\:*?\"<>|%";
    private static final Set<String> DEVICES = Set.of("con", "prn", "aux", "nul");

    private FileName() {}

    /** The file's name for a name; two names never have the same. */
    public static String of(String name) {
        StringBuilder out = new StringBuilder();
        name.codePoints().forEach(c -> {
            boolean first = out.isEmpty();
            if (c < 0x20 || c == 0x7F || FORBIDDEN.indexOf(c) >= 0 || c == '.' && first) {
                encode(c, out);
            } else {
                out.appendCodePoint(c);
            }
        });
        int last = out.length() - 1;
        if (last >= 0 && (out.charAt(last) == '.' || out.charAt(last) == ' ')) {
            char end = out.charAt(last);
            out.setLength(last);
            encode(end, out);
        }
        if (DEVICES.contains(out.toString().toLowerCase(java.util.Locale.ROOT))) {
            char start = out.charAt(0);
            StringBuilder rest = new StringBuilder(out.substring(1));
            out.setLength(0);
            encode(start, out);
            out.append(rest);
        }
        String encoded = out.isEmpty() ? "%" : out.toString();
        return encoded.getBytes(StandardCharsets.UTF_8).length <= LONGEST ? encoded : shortened(name, encoded);
    }

    private static void encode(int codePoint, StringBuilder out) {
        for (byte b : new String(Character.toChars(codePoint)).getBytes(StandardCharsets.UTF_8)) {
            out.append('%').append(HexFormat.of().withUpperCase().toHexDigits(b));
        }
    }

    private static String shortened(String name, String encoded) {
        StringBuilder start = new StringBuilder();
        for (int c : encoded.codePoints().toArray()) {
            start.appendCodePoint(c);
            if (start.toString().getBytes(StandardCharsets.UTF_8).length > LONGEST / 2) {
                break;
            }
        }
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(name.getBytes(StandardCharsets.UTF_8));
            return start.toString().replaceAll("%[0-9A-F]?$", "") + "~"
                    + HexFormat.of().formatHex(digest, 0, 12);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }

    /** The name that a file's name stands for; of one that was shortened only what is left. */
    public static String name(String fileName) {
        if (fileName.equals("%")) {
            return "";
        }
        byte[] bytes = fileName.getBytes(StandardCharsets.UTF_8);
        byte[] out = new byte[bytes.length];
        int length = 0;
        for (int i = 0; i < bytes.length; i++) {
            int high = bytes[i] == '%' && i + 2 < bytes.length ? Character.digit(bytes[i + 1], 16) : -1;
            int low = high < 0 ? -1 : Character.digit(bytes[i + 2], 16);
            if (low >= 0) {
                out[length++] = (byte) (high * 16 + low);
                i += 2;
            } else {
                out[length++] = bytes[i];
            }
        }
        return new String(out, 0, length, StandardCharsets.UTF_8);
    }
}
