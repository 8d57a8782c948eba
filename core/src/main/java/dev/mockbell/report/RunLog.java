package dev.mockbell.report;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.suite.RunEvent;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.StepResult;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** What happened in a run, a line each: requests, answers, captures as they were taken, what failed. Safe for several threads. */
public final class RunLog implements RunListener {
    /** The oldest lines go beyond that. */
    private static final int MOST = 50_000;

    private final Deque<Line> lines = new ArrayDeque<>();
    private final DateTimeFormatter time;
    private long dropped;

    /** @param zone in which times are told */
    public RunLog(ZoneId zone) {
        this.time = DateTimeFormatter.ofPattern("HH:mm:ss.SSS", Locale.ROOT).withZone(zone);
    }

    /**
     * A line.
     *
     * @param step the step's number; empty for the run itself
     * @param bad whether it tells of a failure
     */
    public record Line(Instant at, String step, String words, boolean bad) {}

    @Override
    public void heard(RunEvent event) {
        if (event instanceof RunEvent.Started started) {
            String where = started.environment().isEmpty() ? "" : " against " + started.environment();
            add(event, "", started.suite().title() + where, false);
        } else if (event instanceof RunEvent.StepStarted started) {
            add(event, started.path().text(), started.name() + round(started.round()), false);
        } else if (event instanceof RunEvent.Called called) {
            Exchange exchange = called.exchange();
            String came = exchange.response().isEmpty() ? "no answer" : "status " + exchange.status();
            String note = exchange.note().isEmpty() ? "" : ", " + exchange.note();
            add(
                    event,
                    called.path().text(),
                    first(exchange.request().title()) + " to " + exchange.endpoint() + " → " + came + note + ", "
                            + Math.round(exchange.timing().total() / 1e6) + " ms",
                    exchange.response().isEmpty());
        } else if (event instanceof RunEvent.RowFinished row) {
            result(event, row.path().text(), row.round(), row.result());
        } else if (event instanceof RunEvent.StepFinished step) {
            result(event, step.path().text(), step.round(), step.result());
        } else if (event instanceof RunEvent.Finished finished) {
            add(
                    event,
                    "",
                    (finished.run().passed() ? "passed" : "failed") + ", "
                            + finished.run().checksPassed() + " of "
                            + finished.run().checks() + " checks, "
                            + Math.round(finished.run().millis()) + " ms",
                    !finished.run().passed());
        }
    }

    private static String first(String title) {
        return title.indexOf(' ') < 0 ? title : title.substring(0, title.indexOf(' '));
    }

    private static String round(String round) {
        return round.isEmpty() ? "" : " (" + round + ")";
    }

    private void result(RunEvent event, String step, String round, StepResult result) {
        result.captures().forEach((name, value) -> add(event, step, "$" + name + " = " + value, false));
        if (!result.problem().isEmpty()) {
            add(event, step, result.problem(), result.verdict() == Verdict.FAILED);
        }
        result.checks().stream()
                .filter(c -> !c.passed())
                .map(CheckResult::sentence)
                .forEach(s -> add(event, step, s, true));
        String words = switch (result.verdict()) {
            case PASSED -> "passed";
            case FAILED -> "failed";
            case NOT_RUN -> "not run";
            case OFF -> "off";
        };
        add(event, step, result.name() + ": " + words + round(round), result.verdict() == Verdict.FAILED);
    }

    private synchronized void add(RunEvent event, String step, String words, boolean bad) {
        if (lines.size() >= MOST) {
            lines.removeFirst();
            dropped++;
        }
        lines.add(new Line(event.at(), step, words, bad));
    }

    /** All lines so far. */
    public synchronized List<Line> lines() {
        return List.copyOf(lines);
    }

    /** A line as text. */
    public String text(Line line) {
        return time.format(line.at()) + "  " + (line.step().isEmpty() ? "" : line.step() + "  ") + line.words();
    }

    /** All of it as text. */
    public synchronized String text() {
        String gone = dropped == 0 ? "" : "(" + dropped + " older lines are not kept)\n";
        return gone + lines.stream().map(l -> text(l) + "\n").collect(Collectors.joining());
    }
}
