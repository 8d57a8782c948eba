package dev.mockbell.load;

import dev.mockbell.choice.Choice;
import java.util.Locale;

/**
 * Rows of a table whose columns are variables, a row for each time that something of the mix is carried out.
 *
 * @param file a CSV file of the project, by its path from the project's folder; that of a table of known values will do
 * @param perUser whether each user keeps a row of his own; else a fresh one is taken each time
 */
public record RowUse(String file, Order order, boolean perUser) {
    /** In which order rows are taken. */
    public enum Order implements Choice {
        /** From the first to the last, and again. */
        IN_ORDER("in-order", "In order"),
        AT_RANDOM("at-random", "At random"),
        /** Each once; when there are no more, the run ends. */
        ONCE("once", "Each once");

        private final String code;
        private final String title;

        Order(String code, String title) {
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

    /** As one says it: “huts.csv, in order, each user his own”. */
    String words() {
        return file + ", " + order.title().toLowerCase(Locale.ROOT) + (perUser ? ", each user his own" : "");
    }
}
