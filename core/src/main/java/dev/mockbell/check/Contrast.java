package dev.mockbell.check;

/**
 * Two texts beside each other: what they begin and end with alike, and what of each stands between and is different.
 *
 * @param before what both begin with
 * @param expected what only the text that was asked for has
 * @param found what only the text that was found has
 * @param after what both end with
 */
public record Contrast(String before, String expected, String found, String after) {
    /** Characters beyond the basic plane are not cut in two. */
    public static Contrast of(String expected, String found) {
        int most = Math.min(expected.length(), found.length());
        int head = 0;
        while (head < most && expected.charAt(head) == found.charAt(head)) {
            head++;
        }
        if (head > 0 && Character.isHighSurrogate(expected.charAt(head - 1))) {
            head--;
        }
        int tail = 0;
        while (tail < most - head
                && expected.charAt(expected.length() - 1 - tail) == found.charAt(found.length() - 1 - tail)) {
            tail++;
        }
        if (tail > 0 && Character.isLowSurrogate(expected.charAt(expected.length() - tail))) {
            tail--;
        }
        return new Contrast(
                expected.substring(0, head),
                expected.substring(head, expected.length() - tail),
                found.substring(head, found.length() - tail),
                expected.substring(expected.length() - tail));
    }

    /** One of both texts; where they have little alike nothing is marked, since that tells no more than the text alone. */
    public record Side(String before, String different, String after) {
        /**
         * What of it can be looked at in one go: the start of what is different, with what stands next to it. Of a text that
         * stands alone, its start and its end.
         *
         * @param most characters of each of the three parts
         */
        public Side within(int most) {
            boolean alone = different.isEmpty() && after.isEmpty();
            return new Side(
                    before.length() <= most
                            ? before
                            : alone ? start(before, most / 2) + end(before, most / 2) : "…" + end(before, most),
                    start(different, most),
                    start(after, most));
        }

        private static String start(String part, int most) {
            return part.length() > most ? part.substring(0, whole(part, most)) + "…" : part;
        }

        private static String end(String part, int most) {
            return part.substring(whole(part, part.length() - most));
        }

        /** A place in a text, or the one before it where a character beyond the basic plane would be cut in two. */
        private static int whole(String text, int at) {
            return Character.isLowSurrogate(text.charAt(at)) ? at - 1 : at;
        }
    }

    public Side ofExpected() {
        return side(expected);
    }

    public Side ofFound() {
        return side(found);
    }

    private Side side(String own) {
        int same = before.length() + after.length();
        // that 184.5 and 92.25 end alike is chance
        boolean alike = same > 0 && 2 * same >= same + Math.min(expected.length(), found.length());
        return alike ? new Side(before, visible(own), after) : new Side(before + own + after, "", "");
    }

    /** A part that is nothing but white space, written so that it can be seen; any other as it is. */
    private static String visible(String part) {
        return part.codePoints().allMatch(c -> Character.isWhitespace(c) || Character.isSpaceChar(c))
                ? part.replace(" ", "\u2423")
                        .replace("\u00A0", "\u237D")
                        .replace("\t", "\u21E5")
                        .replace("\r", "\u240D")
                        .replace("\n", "\u21B5\n")
                : part;
    }
}
