package dev.mockbell.load;

/** How work comes in. */
public sealed interface LoadShape {
    /** As a short text: "40/s", "10 users". */
    String title();

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /**
     * Something that is done for each kind of shape; a new kind does not compile before all know it.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R arrivals(Arrivals shape);

        R users(Users shape);
    }

    /**
     * At a constant rate, whether or not earlier work is done (an open model).
     *
     * @param perSecond arrivals a second
     */
    record Arrivals(double perSecond) implements LoadShape {
        @Override
        public String title() {
            return (perSecond == Math.rint(perSecond) ? Long.toString((long) perSecond) : Double.toString(perSecond))
                    + "/s";
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.arrivals(this);
        }
    }

    /**
     * By users who each start again when they are done (a closed model).
     *
     * @param pauseMillis how long each rests between two rounds
     */
    record Users(int count, long pauseMillis) implements LoadShape {
        @Override
        public String title() {
            return count + (count == 1 ? " user" : " users");
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.users(this);
        }
    }
}
