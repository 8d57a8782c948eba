package dev.mockbell.ledger;

import dev.mockbell.content.Content;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextEncoding;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.util.Locale;

/** What of an exchange a text is looked for in: its line, both heads, both messages. */
final class ExchangeWords {
    /** How much of a message full text knows; what is larger is looked through when it is asked for. */
    static final int MOST = 1 << 20;

    private ExchangeWords() {}

    /** Whether full text knows all of it. */
    static boolean isWhole(Exchange e) {
        return e.request().body().size() <= MOST
                && e.response().map(r -> r.body().size()).orElse(0L) <= MOST;
    }

    /** All of it, but for what of a message is beyond {@link #MOST}. */
    static String text(Exchange e) {
        StringBuilder text = new StringBuilder(line(e));
        message(text, e.request());
        e.response().ifPresent(r -> message(text, r));
        return text.toString();
    }

    private static String line(Exchange e) {
        return e.operation()
                + '\n'
                + e.endpoint()
                + '\n'
                + e.origin()
                + '\n'
                + e.note()
                + '\n'
                + e.ties().caller()
                + '\n'
                + e.status()
                + '\n';
    }

    private static void message(StringBuilder text, Message m) {
        text.append(m.head()).append(body(m)).append('\n');
    }

    private static String body(Message m) {
        if (m.body().isEmpty()) {
            return "";
        }
        Part root = m.root();
        byte[] bytes = root.content().start(MOST);
        return encoding(root, bytes).decode(bytes);
    }

    private static TextEncoding encoding(Part root, byte[] start) {
        return TextEncoding.of(start, root.header("Content-Type").orElse(""));
    }

    /**
     * Whether a text is in it.
     *
     * @param wanted in lower case
     * @param whole whether it must be words of their own
     */
    static boolean holds(Exchange e, String wanted, boolean whole) {
        if (holds(text(e), wanted, whole)) {
            return true;
        }
        return !isWhole(e)
                && (beyond(e.request(), wanted, whole)
                        || e.response().map(r -> beyond(r, wanted, whole)).orElse(false));
    }

    /** In a message too large to be held whole, piece by piece, with what stands at a seam in both. */
    private static boolean beyond(Message m, String wanted, boolean whole) {
        Content content = m.root().content();
        byte[] start = content.start(8_192);
        TextEncoding encoding = encoding(m.root(), start);
        try (Reader reader = new InputStreamReader(content.open(encoding.skip()), encoding.charset())) {
            int overlap = wanted.length() + 1;
            char[] piece = new char[(256 << 10) + overlap];
            int held = 0;
            for (int n = reader.read(piece, 0, piece.length);
                    n >= 0;
                    n = reader.read(piece, held, piece.length - held)) {
                int length = held + n;
                if (holds(new String(piece, 0, length), wanted, whole)) {
                    return true;
                }
                held = Math.min(overlap, length);
                System.arraycopy(piece, length - held, piece, 0, held);
            }
            return false;
        } catch (IOException e) {
            throw Content.unreadable(e);
        } catch (Problem e) {
            return false;
        }
    }

    static boolean holds(String text, String wanted, boolean whole) {
        String lower = text.toLowerCase(Locale.ROOT);
        for (int at = lower.indexOf(wanted); at >= 0; at = lower.indexOf(wanted, at + 1)) {
            int end = at + wanted.length();
            boolean alone =
                    (at == 0 || !inWord(lower.charAt(at - 1))) && (end == lower.length() || !inWord(lower.charAt(end)));
            if (!whole || alone) {
                return true;
            }
        }
        return false;
    }

    private static boolean inWord(char c) {
        return Character.isLetterOrDigit(c) || c == '_';
    }
}
