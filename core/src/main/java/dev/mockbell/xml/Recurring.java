package dev.mockbell.xml;

/**
 * Short texts that come again and again in a document, as white space, codes, dates and numbers do, each held once. What is
 * remembered is bounded: of two that want the same place the later one has it.
 */
final class Recurring {
    private static final int LONGEST = 32;
    private static final int SMALL = 1 << 6;
    private static final int LARGE = 1 << 12;

    /** A document of so many characters is worth the larger table. */
    private static final long LARGE_DOCUMENT = 1 << 16;

    private final String[] texts;

    /** @param size about how many characters the document has */
    Recurring(long size) {
        texts = new String[size < LARGE_DOCUMENT ? SMALL : LARGE];
    }

    /** The text, the same object as before if it is still known. */
    String of(CharSequence text) {
        int length = text.length();
        if (length > LONGEST) {
            return text.toString();
        }
        int hash = length;
        for (int i = 0; i < length; i++) {
            hash = 31 * hash + text.charAt(i);
        }
        int at = (hash ^ hash >>> 12) & texts.length - 1;
        String known = texts[at];
        if (known == null || !known.contentEquals(text)) {
            known = text.toString();
            texts[at] = known;
        }
        return known;
    }
}
