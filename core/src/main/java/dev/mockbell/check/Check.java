package dev.mockbell.check;

/** Something that an answer must hold to. */
public sealed interface Check {
    /** In a few words, for a list. */
    String title();

    /** The answer's body is valid against the contract; a fault's detail is where it is declared. */
    record Valid() implements Check {
        @Override
        public String title() {
            return "Valid against the contract";
        }
    }

    /** The answer is not a fault and its status says success. */
    record NoFault() implements Check {
        @Override
        public String title() {
            return "No fault";
        }
    }

    /**
     * The answer is this fault.
     *
     * @param name local name of the element in the detail, or the code without its prefix; empty for any fault
     */
    record FaultIs(String name) implements Check {
        @Override
        public String title() {
            return name.isEmpty() ? "Some fault" : "Fault " + name;
        }
    }

    /**
     * A value in the answer.
     *
     * @param path an XPath over the payload
     * @param expected the text it must have; expressions in braces are filled. Numbers are compared as numbers
     */
    record Value(String path, String expected) implements Check {
        @Override
        public String title() {
            return path.substring(path.lastIndexOf('/') + 1) + " = " + expected;
        }
    }

    /** A condition on the answer, an XPath that must be true. */
    record Condition(String xpath) implements Check {
        @Override
        public String title() {
            return xpath;
        }
    }

    /** The whole answer came within a time, in milliseconds. */
    record Within(long millis) implements Check {
        @Override
        public String title() {
            return "Answered within " + millis + " ms";
        }
    }
}
