package dev.mockbell.mock;

import java.util.random.RandomGenerator;

/** How long a mock waits before it answers. */
public sealed interface Pause {
    /** At once. */
    Pause NONE = new Fixed(0);

    /** The longest, whatever chance says: an hour. */
    long LONGEST_MILLIS = 3_600_000;

    /**
     * In milliseconds, from 0 to {@link #LONGEST_MILLIS}.
     *
     * @param random may be null for one that is fixed
     */
    long millis(RandomGenerator random);

    /** Whether it is the same each time. */
    default boolean isFixed() {
        return false;
    }

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /**
     * Something that is done for each kind.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R fixed(Fixed pause);

        R between(Between pause);

        R normal(Normal pause);

        R exponential(Exponential pause);
    }

    private static long bounded(double millis) {
        return Math.round(Math.max(0, Math.min(LONGEST_MILLIS, millis)));
    }

    /** Always the same. */
    record Fixed(long millis) implements Pause {
        public Fixed {
            millis = bounded(millis);
        }

        @Override
        public long millis(RandomGenerator random) {
            return millis;
        }

        @Override
        public boolean isFixed() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.fixed(this);
        }
    }

    /** Anything from one to the other, all as likely. */
    record Between(long low, long high) implements Pause {
        public Between {
            low = bounded(low);
            high = Math.max(low, bounded(high));
        }

        @Override
        public long millis(RandomGenerator random) {
            return random.nextLong(low, high + 1);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.between(this);
        }
    }

    /** Spread about a mean as the normal distribution has it; none is below 0. */
    record Normal(long mean, long deviation) implements Pause {
        public Normal {
            mean = bounded(mean);
            deviation = bounded(deviation);
        }

        @Override
        public long millis(RandomGenerator random) {
            return bounded(mean + deviation * random.nextGaussian());
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.normal(this);
        }
    }

    /** As the exponential distribution has it: mostly short, now and then very long. */
    record Exponential(long mean) implements Pause {
        public Exponential {
            mean = bounded(mean);
        }

        @Override
        public long millis(RandomGenerator random) {
            return bounded(mean * random.nextExponential());
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.exponential(this);
        }
    }
}
