package dev.mockbell.check;

import dev.mockbell.choice.Choice;
import dev.mockbell.problem.Problem;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;

/** Something that an answer must hold to. */
public sealed interface Check {
    /** In a few words, for a list. */
    String title();

    /** In the fewest words, for a line that holds many. */
    default String brief() {
        return title();
    }

    /** Whether it is met by a fault alone, so that the fault of a case that has it is what was asked for. */
    default boolean wantsFault() {
        return false;
    }

    /** Whether it decides on what a fault means, one way or the other. */
    default boolean judgesFaults() {
        return wantsFault();
    }

    /** Whether the body of an answer that came in time with a good status must be read for it. */
    default boolean readsBody() {
        return true;
    }

    /** The time after which an answer fails it whatever it says, in milliseconds; empty when it may come at any time. */
    default OptionalLong latestMillis() {
        return OptionalLong.empty();
    }

    /** Whether its opposite means something that a service can be asked for. */
    default boolean negatable() {
        return true;
    }

    /** Whether nothing that follows is to be tried when it fails, besides what cleans up. */
    default boolean stops() {
        return false;
    }

    /** Itself, without what {@link Not} and {@link Stopping} say of it. */
    default Check bare() {
        return this;
    }

    /** The path of the one value that it judges; empty when it judges more, or other things. */
    default Optional<String> judgedPath() {
        return Optional.empty();
    }

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /**
     * Something that is done for each kind of check. A new kind does not compile before all who do something with checks know
     * it: its judgement, its form in a file, its words.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R valid(Valid check);

        R noFault(NoFault check);

        R fault(FaultIs check);

        R value(Value check);

        R condition(Condition check);

        R within(Within check);

        R text(MessageText check);

        R header(HeaderIs check);

        R status(StatusIs check);

        R size(SizeAtMost check);

        R baseline(SameAsBaseline check);

        R present(Present check);

        R count(Count check);

        R each(Each check);

        R items(Items check);

        R partCount(PartCount check);

        R part(PartIs check);

        R secured(Secured check);

        R not(Not check);

        R stopping(Stopping check);
    }

    /** How a text is held against another. */
    enum Match implements Choice {
        IS("is", "is"),
        HAS("has", "contains"),
        /** A regular expression of XPath (Functions and Operators 3.1 §5.6.1), anywhere in the text. */
        MATCHES("matches", "matches");

        private final String code;
        private final String title;

        Match(String code, String title) {
            this.code = code;
            this.title = title;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }
    }

    /** The answer's body is valid against the contract; a fault's detail is where it is declared. */
    record Valid() implements Check {
        @Override
        public String brief() {
            return "valid";
        }

        @Override
        public String title() {
            return "Valid against the contract";
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.valid(this);
        }
    }

    /** The answer is not a fault and its status says success. */
    record NoFault() implements Check {
        @Override
        public String brief() {
            return "no fault";
        }

        @Override
        public String title() {
            return "No fault";
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public boolean negatable() {
            return false;
        }

        @Override
        public boolean readsBody() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.noFault(this);
        }
    }

    /**
     * The answer is this fault.
     *
     * @param name local name of the element in the detail, or the code without its prefix; empty for any fault
     */
    record FaultIs(String name) implements Check {
        @Override
        public String brief() {
            return name.isEmpty() ? "some fault" : "fault " + name;
        }

        @Override
        public String title() {
            return name.isEmpty() ? "Some fault" : "Fault " + name;
        }

        @Override
        public boolean wantsFault() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.fault(this);
        }
    }

    /**
     * A value in the answer.
     *
     * @param path an XPath over the payload
     * @param expected the text it must have; expressions in braces are filled. Numbers are compared as numbers, dates and
     *     moments as what they mean
     * @param tolerance how far off it may be: a number, or a duration of XML Schema such as {@code PT5M}; empty for not at all
     */
    record Value(String path, String expected, String tolerance) implements Check {
        /** One that must be exact. */
        public Value(String path, String expected) {
            this(path, expected, "");
        }

        @Override
        public String title() {
            return last(path) + " = " + expected + (tolerance.isEmpty() ? "" : " ± " + tolerance);
        }

        @Override
        public Optional<String> judgedPath() {
            return Optional.of(path);
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.value(this);
        }
    }

    /** A condition on the answer, an XPath that must be true. */
    record Condition(String xpath) implements Check {
        @Override
        public String title() {
            return xpath;
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.condition(this);
        }
    }

    /** The whole answer came within a time, in milliseconds. */
    record Within(long millis) implements Check {
        @Override
        public String brief() {
            return "within " + millis + " ms";
        }

        @Override
        public String title() {
            return "Answered within " + millis + " ms";
        }

        @Override
        public boolean negatable() {
            return false;
        }

        @Override
        public OptionalLong latestMillis() {
            return OptionalLong.of(millis);
        }

        @Override
        public boolean readsBody() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.within(this);
        }
    }

    private static String last(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    /**
     * A text that stands in the message as it came, markup included.
     *
     * @param wanted with expressions in braces where it is a text, as it stands where it is a pattern
     */
    record MessageText(Match match, String wanted) implements Check {
        @Override
        public String brief() {
            return match.title() + " " + wanted;
        }

        @Override
        public String title() {
            return "The message " + match.title() + " " + wanted;
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.text(this);
        }
    }

    /**
     * A header field of the transport; of several of one name their values, joined by commas (RFC 9110 §5.3).
     *
     * @param wanted with expressions in braces, but where it is a pattern
     */
    record HeaderIs(String name, Match match, String wanted) implements Check {
        @Override
        public String title() {
            return name + " " + match.title() + " " + wanted;
        }

        @Override
        public boolean readsBody() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.header(this);
        }
    }

    /**
     * The status of the transport.
     *
     * @param wanted numbers, classes such as {@code 2xx} and stretches such as {@code 200-204}, separated by commas
     */
    record StatusIs(String wanted) implements Check {
        /**
         * Whether a status is one of those.
         *
         * @throws Problem when what is wanted is no status
         */
        public boolean allows(int status) {
            boolean allowed = false;
            for (String one : wanted.split(",", -1)) {
                allowed |= isIn(one.strip().toLowerCase(Locale.ROOT), status);
            }
            return allowed;
        }

        private static boolean isIn(String range, int status) {
            if (range.matches("[1-5]xx")) {
                return status / 100 == range.charAt(0) - '0';
            }
            if (!range.matches("\\d{3}(\\s*-\\s*\\d{3})?")) {
                throw Problem.input("“" + range + "” is no status", null, "Write 200, 2xx or 200-204.");
            }
            String[] ends = range.split("-");
            return status >= Integer.parseInt(ends[0].strip())
                    && status <= Integer.parseInt(ends[ends.length - 1].strip());
        }

        @Override
        public String brief() {
            return "status " + wanted;
        }

        @Override
        public String title() {
            return "Status " + wanted;
        }

        @Override
        public boolean readsBody() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.status(this);
        }
    }

    /** The body, decoded, has at most so many bytes. */
    record SizeAtMost(long bytes) implements Check {
        @Override
        public String brief() {
            return "at most " + bytes + " bytes";
        }

        @Override
        public String title() {
            return "At most " + bytes + " bytes";
        }

        @Override
        public boolean negatable() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.size(this);
        }
    }

    /** The answer says what the baseline of its case says, in whatever order and white space. */
    record SameAsBaseline() implements Check {
        @Override
        public String brief() {
            return "same as baseline";
        }

        @Override
        public String title() {
            return "Same as the baseline";
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.baseline(this);
        }
    }

    /** Something is there at a path, an element or an attribute, whatever it holds. */
    record Present(String path) implements Check {
        @Override
        public String title() {
            return last(path) + " is there";
        }

        @Override
        public Optional<String> judgedPath() {
            return Optional.of(path);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.present(this);
        }
    }

    /**
     * So many nodes are at a path.
     *
     * @param from at least
     * @param to at most
     */
    record Count(String path, long from, long to) implements Check {
        @Override
        public String title() {
            return last(path) + ": " + words();
        }

        /** "3", "at least 3", "3 to 5". */
        public String words() {
            return from == to ? "" + from : to == Long.MAX_VALUE ? "at least " + from : from + " to " + to;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.count(this);
        }
    }

    /**
     * A condition on each of the nodes at a path.
     *
     * @param all whether every one must meet it, and there must be one; otherwise one of them
     * @param holds an XPath from the node
     */
    record Each(String path, boolean all, String holds) implements Check {
        @Override
        public String title() {
            return (all ? "every " : "some ") + last(path) + ": " + holds;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.each(this);
        }
    }

    /**
     * The values of the nodes at a path.
     *
     * @param wanted all of them, with expressions in braces
     * @param inOrder whether they must come in that order
     */
    record Items(String path, List<String> wanted, boolean inOrder) implements Check {
        public Items {
            wanted = List.copyOf(wanted);
        }

        @Override
        public String title() {
            return last(path) + ": " + String.join(", ", wanted) + (inOrder ? "" : " in any order");
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.items(this);
        }
    }

    /** So many parts come beside the message in its body. */
    record PartCount(int count) implements Check {
        @Override
        public String title() {
            return count == 1 ? "1 part beside the message" : count + " parts beside the message";
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.partCount(this);
        }
    }

    /**
     * What one of the parts beside the message is.
     *
     * @param part its Content-ID, or its number from 1
     * @param wanted the media type, the bytes, or the hash in hexadecimal
     */
    record PartIs(String part, Fact fact, String wanted) implements Check {
        /** What is known of a part. */
        public enum Fact implements Choice {
            TYPE("type", "type"),
            BYTES("bytes", "bytes"),
            SHA256("sha256", "SHA-256");

            private final String code;
            private final String title;

            Fact(String code, String title) {
                this.code = code;
                this.title = title;
            }

            @Override
            public String code() {
                return code;
            }

            @Override
            public String title() {
                return title;
            }
        }

        @Override
        public String title() {
            return "Part " + part + ": " + fact.title() + " " + wanted;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.part(this);
        }
    }

    /** The answer was signed or decrypted as the security profile wants it, and that was verified. */
    record Secured() implements Check {
        @Override
        public String brief() {
            return "secured";
        }

        @Override
        public String title() {
            return "Security of the answer verified";
        }

        @Override
        public boolean negatable() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.secured(this);
        }
    }

    /** The opposite of another. Where there is no answer that could be judged it fails as that one does. */
    record Not(Check of) implements Check {
        @Override
        public String brief() {
            return "not " + of.brief();
        }

        @Override
        public String title() {
            return "Not: " + of.title();
        }

        @Override
        public boolean judgesFaults() {
            return of.judgesFaults();
        }

        @Override
        public boolean readsBody() {
            return of.readsBody();
        }

        @Override
        public Check bare() {
            return of.bare();
        }

        @Override
        public Optional<String> judgedPath() {
            return of.judgedPath();
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.not(this);
        }
    }

    /** One after whose failure the run goes no further, but to clean up. */
    record Stopping(Check of) implements Check {
        @Override
        public String brief() {
            return of.brief();
        }

        @Override
        public String title() {
            return of.title();
        }

        @Override
        public boolean wantsFault() {
            return of.wantsFault();
        }

        @Override
        public boolean judgesFaults() {
            return of.judgesFaults();
        }

        @Override
        public boolean readsBody() {
            return of.readsBody();
        }

        @Override
        public OptionalLong latestMillis() {
            return of.latestMillis();
        }

        @Override
        public boolean negatable() {
            return of.negatable();
        }

        @Override
        public boolean stops() {
            return true;
        }

        @Override
        public Check bare() {
            return of.bare();
        }

        @Override
        public Optional<String> judgedPath() {
            return of.judgedPath();
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.stopping(this);
        }
    }
}
