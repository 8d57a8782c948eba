package dev.mockbell.suite;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.choice.Choice;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** What is another in one run of a suite than in an older one: results, values, and times where they differ much. */
public final class RunComparison {
    /** A time that is less than so many milliseconds off is no news on any machine. */
    private static final double LEAST_MILLIS = 50;

    private static final double FACTOR = 2;

    /** What is another. */
    public enum What implements Choice {
        RESULT("result", "result"),
        VALUE("value", "value"),
        TIME("time", "time");

        private final String code;
        private final String title;

        What(String code, String title) {
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
     * One thing that is another.
     *
     * @param name of the step, and of the row or round in it
     * @param of what of it, such as a check's title; empty for the step itself
     */
    public record Change(StepPath path, String name, What what, String of, String before, String now) {
        /** On one line. */
        public String words() {
            return path.text() + "  " + name + ": " + (of.isEmpty() ? what.title : of) + " " + before + " → " + now;
        }
    }

    private final List<Change> changes = new ArrayList<>();

    private RunComparison() {}

    /** The changes in the order of the suite; steps that one of the runs does not have are passed over. */
    public static List<Change> of(Suite suite, Run before, Run now) {
        RunComparison made = new RunComparison();
        suite.each((path, step) -> {
            Optional<StepResult> was = before.at(path);
            Optional<StepResult> is = now.at(path);
            if (was.isPresent() && is.isPresent() && step.inner().isEmpty()) {
                made.compare(path, step.name(), was.get(), is.get());
            }
        });
        return List.copyOf(made.changes);
    }

    private void compare(StepPath path, String name, StepResult was, StepResult is) {
        if (was.verdict() != is.verdict()) {
            add(path, name, What.RESULT, "", words(was.verdict()), words(is.verdict()));
        }
        values(path, name, found(was), found(is));
        values(path, name, captured(was), captured(is));
        double more = Math.max(was.millis(), is.millis());
        double less = Math.min(was.millis(), is.millis());
        if (was.millis() > 0 && is.millis() > 0 && more - less >= LEAST_MILLIS && more >= FACTOR * less) {
            add(path, name, What.TIME, "", Math.round(was.millis()) + " ms", Math.round(is.millis()) + " ms");
        }
        for (int i = 0; i < Math.min(was.inner().size(), is.inner().size()); i++) {
            if (was.inner().get(i).name().equals(is.inner().get(i).name())) {
                compare(
                        path,
                        name + " · " + is.inner().get(i).name(),
                        was.inner().get(i),
                        is.inner().get(i));
            }
        }
    }

    private void values(StepPath path, String name, Map<String, String> was, Map<String, String> is) {
        is.forEach((of, now) -> {
            String before = was.get(of);
            if (before != null && !before.equals(now)) {
                add(path, name, What.VALUE, of, before, now);
            }
        });
    }

    /** What checks found, but for times, which are another each time. */
    private static Map<String, String> found(StepResult result) {
        Map<String, String> all = new LinkedHashMap<>();
        for (CheckResult check : result.checks()) {
            if (!check.found().endsWith(" ms")) {
                all.put(check.title(), check.found());
            }
        }
        return all;
    }

    private static Map<String, String> captured(StepResult result) {
        Map<String, String> all = new LinkedHashMap<>();
        result.captures().forEach((name, value) -> all.put("$" + name, value));
        return all;
    }

    private void add(StepPath path, String name, What what, String of, String before, String now) {
        changes.add(new Change(path, name, what, of, before, now));
    }

    private static String words(Verdict verdict) {
        return verdict.name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
}
