package dev.mockbell.load;

/**
 * Where the time of answers went, in milliseconds: one stage of the way. Stages that a request did not go through do not
 * count among its times.
 *
 * @param count how many went through it
 */
public record Spent(Stage stage, long count, double mean, double p50, double p99, double max) {
    /** The stages of a request's way, in their order. */
    public enum Stage {
        LATE("generator late"),
        WAITED("waited for a connection"),
        CONNECT("connect"),
        TLS("TLS"),
        /** From when a message is sent until its broker has it. */
        GIVEN("taken by the broker"),
        SERVER("server"),
        RECEIVE("receive");

        private final String title;

        Stage(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }
}
