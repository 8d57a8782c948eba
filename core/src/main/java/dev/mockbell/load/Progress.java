package dev.mockbell.load;

import java.util.concurrent.atomic.LongAdder;

/** How much of what was planned is carried out, in journeys. Safe for many threads. */
final class Progress {
    private final LoadSession session;
    private final LongAdder began = new LongAdder();
    private final LongAdder well = new LongAdder();
    private final LongAdder users = new LongAdder();

    Progress(LoadSession session) {
        this.session = session;
    }

    /** One that was intended then has begun. */
    void began(long intended) {
        if (session.counts(intended)) {
            began.increment();
        }
    }

    void ended(boolean passed) {
        if (passed) {
            well.increment();
        }
    }

    /** One user more is at work, or one less. */
    void user(int more) {
        users.add(more);
    }

    long began() {
        return began.sum();
    }

    long well() {
        return well.sum();
    }

    long users() {
        return users.sum();
    }
}
