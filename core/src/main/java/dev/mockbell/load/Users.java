package dev.mockbell.load;

import dev.mockbell.load.LoadDriver.Ground;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import java.util.random.RandomGenerator;

/**
 * Has users at work on one lane, as many as the curve says at each moment: who is too many leaves at the end of what he does.
 * Of all users every so-manieth is this lane's.
 */
final class Users implements LoadDriver {
    private static final long LOOK_MILLIS = 20;

    /** So many start in one turn of the loop, so that answers are not kept waiting. */
    private static final int TOGETHER = 256;

    /** So many journeys may follow each other without a turn of the loop in between. */
    private static final int DEPTH = 8;

    private final Ground ground;
    private final LoadShape shape;
    private final boolean keepsRow;
    private final int lane;
    private final int lanes;
    private final Turns turns;
    private final long seed;
    private int working;
    private int wanted;
    private int resting;
    private int highest;
    private boolean over;
    private boolean told;
    private int depth;

    /**
     * @param lane the number of the lane, from 0
     * @param keepsRow whether each user keeps a row of his own
     */
    Users(Ground ground, LoadShape shape, boolean keepsRow, int lane, int lanes, long seed) {
        this.ground = ground;
        this.shape = shape;
        this.keepsRow = keepsRow;
        this.lane = lane;
        this.lanes = lanes;
        this.seed = seed;
        this.turns = new Turns(ground.session().course().passages());
    }

    @Override
    public void begin() {
        look();
    }

    @Override
    public void changed() {
        if (ground.control().isEnding()) {
            over = true;
            wanted = 0;
            tell();
        }
    }

    private double second() {
        return (System.nanoTime() - ground.from()) / 1e9;
    }

    /** How many of this lane's users are to be at work. */
    private int wanted() {
        double second = second();
        if (over || second >= shape.seconds()) {
            return 0;
        }
        long all = Math.round(shape.level(second) * ground.control().factor());
        return (int) Math.max(0, (all - lane + lanes - 1) / lanes);
    }

    private void look() {
        wanted = wanted();
        over = over || second() >= shape.seconds();
        highest = Math.min(highest, Math.max(wanted, working));
        for (int i = 0; i < TOGETHER && working < wanted; i++) {
            working++;
            ground.progress().user(1);
            int number = highest++ * lanes + lane;
            new User(new SplittableRandom(seed + number)).round();
        }
        if (over) {
            tell();
        } else {
            ground.lane().loop().schedule(this::look, working < wanted ? 1 : LOOK_MILLIS, TimeUnit.MILLISECONDS);
        }
    }

    private void tell() {
        // who rests has nothing under way
        if (over && working == resting && !told) {
            told = true;
            ground.done().run();
        }
    }

    /** One user: goes round until there are too many. */
    private final class User implements Journey.End {
        private final RandomGenerator chance;
        private Map<String, String> own;

        User(RandomGenerator chance) {
            this.chance = chance;
        }

        void round() {
            begin(System.nanoTime());
        }

        private void rested() {
            resting--;
            round();
        }

        private void begin(long now) {
            if (working > wanted) {
                leave();
                return;
            }
            Map<String, String> row =
                    keepsRow && own != null ? own : ground.rows().next(chance);
            if (row == null) {
                // each row was taken once: nothing more comes in
                over = true;
                wanted = 0;
                leave();
                return;
            }
            own = row;
            if (ground.session().counts(now)) {
                ground.lane().tally().began();
            }
            new Journey(ground.session(), ground.lane(), turns.next(), row, chance, now, this).go();
        }

        @Override
        public void ended(boolean well, long now) {
            if (well) {
                ground.lane().tally().endedWell();
            }
            long pause = ground.session().pauses().nanos(chance);
            if (pause > 0 && !over) {
                resting++;
                ground.lane().loop().schedule(this::rested, pause, TimeUnit.NANOSECONDS);
            } else if (well && depth < DEPTH) {
                depth++;
                begin(now);
                depth--;
            } else {
                // failures in a row must not deepen the stack, nor keep the loop for themselves
                ground.lane().loop().execute(this::round);
            }
        }

        private void leave() {
            working--;
            ground.progress().user(-1);
            tell();
        }
    }
}
