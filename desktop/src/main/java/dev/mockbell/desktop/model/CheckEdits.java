package dev.mockbell.desktop.model;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.expression.Scope;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.SuiteRunner;
import java.util.ArrayList;
import java.util.List;

/** The checks and captures of the current case, and what the answer that is shown makes of them. */
public final class CheckEdits {
    private final Desk desk;
    private final CallModel call;
    private long judgings;

    CheckEdits(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
    }

    /** Adds a check to the current case and applies the checks to the answer that is shown. */
    public void add(Check check) {
        List<Check> checks = new ArrayList<>(call.currentProperty().get().checks());
        if (!checks.contains(check)) {
            checks.add(check);
            call.keep(call.currentProperty().get().withChecks(checks));
            judge();
        }
    }

    /** Lets a check take the place of another; nothing, when the case has it already. */
    public void replace(Check old, Check edited) {
        List<Check> checks = new ArrayList<>(call.currentProperty().get().checks());
        int at = checks.indexOf(old);
        if (at >= 0 && !checks.contains(edited)) {
            checks.set(at, edited);
            call.keep(call.currentProperty().get().withChecks(checks));
            judge();
        }
    }

    /** Takes a check away; what the answer is worth without it is worked out anew. */
    public void remove(Check check) {
        call.keep(call.currentProperty()
                .get()
                .withChecks(call.currentProperty().get().checks().stream()
                        .filter(c -> !c.equals(check))
                        .toList()));
        judge();
    }

    /** Makes a check of the value in a row. */
    public void addValue(SheetRow row) {
        String value = row.value().replace("{", "{{").replace("}", "}}");
        add(new Check.Value(row.path(), desk.redactor().unfilled(value)));
    }

    /** Makes a capture of the value in a row, under a free name like the row's. */
    public void capture(SheetRow row) {
        List<Capture> captures = new ArrayList<>(call.currentProperty().get().captures());
        if (captures.stream().anyMatch(c -> c.path().equals(row.path()))) {
            return;
        }
        String wanted = row.label().replaceAll("[^A-Za-z0-9_.-]", "").replaceAll("^[0-9.-]+", "");
        String base = wanted.isEmpty() ? "value" : wanted;
        String name = base;
        for (int i = 2; taken(captures, name); i++) {
            name = base + i;
        }
        captures.add(new Capture(name, row.path()));
        call.keep(call.currentProperty().get().withCaptures(captures));
        call.captured(name, row.value());
    }

    private static boolean taken(List<Capture> captures, String name) {
        return captures.stream().anyMatch(c -> c.name().equals(name));
    }

    /** Takes a capture away; what it has found so far stays known in this session. */
    public void removeCapture(Capture capture) {
        call.keep(call.currentProperty()
                .get()
                .withCaptures(call.currentProperty().get().captures().stream()
                        .filter(c -> !c.equals(capture))
                        .toList()));
    }

    /** Weighs the answer that is shown anew; of several at once the last counts, whichever ends first. */
    private void judge() {
        SuiteRunner.Called last = call.calledProperty().get();
        if (last == null) {
            return;
        }
        Case kept = call.currentProperty().get();
        Scope scope = call.scope();
        SuiteRunner runner = desk.runner();
        long own = ++judgings;
        desk.tasks()
                .run(
                        () -> runner.judge(kept, last, scope),
                        judged -> {
                            if (own != judgings) {
                                // the checks have changed once more, and are weighed by one that follows
                                return;
                            }
                            call.judged(kept, last, judged);
                        },
                        desk::tell);
    }
}
