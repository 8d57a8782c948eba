package dev.mockbell.load;

import java.util.concurrent.atomic.LongAdder;

/** How many users are at work. Safe for many threads. */
final class Progress {
    private final LongAdder users = new LongAdder();

    /** One user more is at work, or one less. */
    void user(int more) {
        users.add(more);
    }

    long users() {
        return users.sum();
    }
}
