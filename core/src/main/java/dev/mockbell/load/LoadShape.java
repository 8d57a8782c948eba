package dev.mockbell.load;

import dev.mockbell.choice.Choice;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * How much work comes in, as a curve over time: straight from each point to the next. Two points at the same second are a
 * jump. Before the first point it is as at the first, and it ends with the last.
 *
 * @param points in the order of their time, two at least
 */
public record LoadShape(Kind kind, List<Point> points) {
    /** More than a curve needs, and fewer than would slow a look at it. */
    private static final int MOST_POINTS = 1_000;

    /** What the levels of a curve are. */
    public enum Kind implements Choice {
        /** Arrivals a second, whether or not earlier work is done (an open model). */
        ARRIVALS("arrivals", "Arrivals"),
        /** Users at work, who each start again when they are done (a closed model). */
        USERS("users", "Users");

        private final String code;
        private final String title;

        Kind(String code, String title) {
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

    /**
     * A point of the curve.
     *
     * @param at seconds from the start
     * @param level arrivals a second, or users
     */
    public record Point(double at, double level) {}

    /** @throws Problem when it is no curve: fewer than two points, a level below 0, no time between the first and the last */
    public LoadShape {
        List<Point> sorted = new ArrayList<>(points);
        sorted.sort(Comparator.comparingDouble(Point::at));
        points = List.copyOf(sorted);
        if (points.size() < 2 || points.size() > MOST_POINTS) {
            throw wrong("A curve of load has two points at least, and " + MOST_POINTS + " at most");
        }
        for (Point p : points) {
            if (!(p.at() >= 0) || !(p.level() >= 0) || p.at() > 1e7 || p.level() > 1e7) {
                throw wrong("A point of the curve is at " + p.at() + " s with the level " + p.level());
            }
        }
        if (points.get(points.size() - 1).at() <= 0) {
            throw wrong("The curve of load is over at once");
        }
    }

    private static Problem wrong(String what) {
        return Problem.input(what, null, "Give it points such as 0 s and 60 s, each with a level of 0 or more.");
    }

    /** At a constant rate, for so long. */
    public static LoadShape arrivals(double perSecond, double seconds) {
        return constant(Kind.ARRIVALS, perSecond, seconds);
    }

    /** By so many users, for so long. */
    public static LoadShape users(int count, double seconds) {
        return constant(Kind.USERS, count, seconds);
    }

    /** At one level all the time. */
    public static LoadShape constant(Kind kind, double level, double seconds) {
        return new LoadShape(kind, List.of(new Point(0, level), new Point(seconds, level)));
    }

    /** Whether the level is the same all the time. */
    public boolean isConstant() {
        return points.size() == 2
                && points.get(0).level() == points.get(1).level()
                && points.get(0).at() == 0;
    }

    /** How long it lasts. */
    public double seconds() {
        return points.get(points.size() - 1).at();
    }

    /** The level at a time; after a jump the one that it leads to. */
    public double level(double at) {
        Point before = points.get(0);
        if (at < before.at()) {
            return before.level();
        }
        for (Point p : points) {
            if (p.at() > at) {
                return before.level() + (p.level() - before.level()) * (at - before.at()) / (p.at() - before.at());
            }
            before = p;
        }
        return before.level();
    }

    /** How many arrivals are due between two seconds; for users, none. */
    public double due(double from, double to) {
        if (kind != Kind.ARRIVALS) {
            return 0;
        }
        ArrivalTimes times = new ArrivalTimes(this);
        return Math.max(0, times.by(to) - times.by(from));
    }

    /** The highest level. */
    public double most() {
        return points.stream().mapToDouble(Point::level).max().orElse(0);
    }

    /** As it begins. */
    public double first() {
        return level(0);
    }

    public LoadShape with(List<Point> other) {
        return new LoadShape(kind, other);
    }

    /** The same curve of another kind. */
    public LoadShape with(Kind other) {
        return new LoadShape(other, points);
    }

    /** At one level all the time, as long as it lasts. */
    public LoadShape withLevel(double level) {
        return constant(kind, level, seconds());
    }

    /** Drawn out, or together, to another length. */
    public LoadShape withSeconds(double other) {
        double factor = other / seconds();
        return with(points.stream()
                .map(p -> new Point(p == points.get(points.size() - 1) ? other : p.at() * factor, p.level()))
                .toList());
    }

    /** As people say it: "40/s for 1 min, to 220/s in 1 min, 220/s for 2 min". */
    public String title() {
        String unit = kind == Kind.ARRIVALS ? "/s" : first() == 1 && isConstant() ? " user" : " users";
        List<String> words = new ArrayList<>();
        Point before = points.get(0);
        if (before.at() > 0) {
            words.add(number(before.level()) + unit + " for " + time(before.at()));
        }
        for (Point p : points.subList(1, points.size())) {
            double took = p.at() - before.at();
            if (took == 0) {
                words.add("at once to " + number(p.level()) + unit);
            } else if (p.level() == before.level()) {
                words.add(number(p.level()) + unit + " for " + time(took));
            } else {
                words.add((words.isEmpty() ? "from " + number(before.level()) + " " : "") + "to " + number(p.level())
                        + unit + " in " + time(took));
            }
            before = p;
        }
        return String.join(", ", words);
    }

    private static String number(double value) {
        return value == Math.rint(value)
                ? Long.toString((long) value)
                : String.format(Locale.ROOT, "%.2f", value).replaceAll("0+$", "");
    }

    private static String time(double seconds) {
        return seconds >= 60 && seconds % 60 == 0 ? number(seconds / 60) + " min" : number(seconds) + " s";
    }
}
