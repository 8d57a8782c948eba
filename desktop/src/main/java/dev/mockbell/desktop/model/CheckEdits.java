package dev.mockbell.desktop.model;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.suite.VariableUse;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

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
        addValue(row.path(), row.value());
    }

    /** Makes a check of a value of the answer by its path. */
    public void addValue(String path, String value) {
        add(new Check.Value(path, desk.redactor().unfilled(Braces.literally(value))));
    }

    /** Makes a check of what is at a path of the answer that is shown; told when that is no single value. */
    public void addValueAt(String path) {
        at(path, value -> addValue(path, value));
    }

    /** Makes a capture of what is at a path of the answer that is shown. */
    public void captureAt(String path) {
        at(path, value -> capture(path, path.substring(path.lastIndexOf('/') + 1), value));
    }

    private void at(String path, Consumer<String> then) {
        SuiteRunner.Called last = call.calledProperty().get();
        if (last == null || last.answer().payload().isEmpty()) {
            return;
        }
        desk.tasks()
                .run(
                        () -> {
                            Expressions looking = desk.expressions().looking();
                            return looking.evaluate(
                                    path,
                                    Scope.EMPTY.on(looking.wrap(last.answer().document())));
                        },
                        found -> {
                            if (found.size() == 1) {
                                then.accept(Expressions.text(found));
                            } else {
                                desk.tell(Notice.bad(found.size() + " values are at " + path + ", not one."));
                            }
                        },
                        desk::tell);
    }

    /** Makes a capture of the value in a row, under a free name like the row's. */
    public void capture(SheetRow row) {
        capture(row.path(), row.label(), row.value());
    }

    /** Lets a capture take the place of another, of one name or another. */
    public void replace(Capture old, Capture edited) {
        List<Capture> captures = new ArrayList<>(call.currentProperty().get().captures());
        int at = captures.indexOf(old);
        if (at >= 0) {
            captures.set(at, edited);
            call.keep(call.currentProperty().get().withCaptures(captures));
            judge();
        }
    }

    /** Holds an exchange of the ledger against the checks of the current case, without changing anything. */
    public void tryAgainst(long exchange, Consumer<List<CheckResult>> then) {
        Case kept = call.currentProperty().get();
        Scope scope = call.scope();
        SuiteRunner runner = desk.runner();
        desk.tasks()
                .run(
                        () -> {
                            Exchange found = desk.ledger()
                                    .get(exchange)
                                    .filter(e -> e.response().isPresent())
                                    .orElseThrow(() -> Problem.input(
                                            "The ledger has no answer with the number " + exchange,
                                            null,
                                            "See Traffic for the numbers."));
                            return runner.judge(kept, found, scope);
                        },
                        then,
                        desk::tell);
    }

    /** The cases that use a variable. */
    public List<Case> users(String variable) {
        return desk.project().cases().stream()
                .filter(c -> VariableUse.in(c, variable))
                .toList();
    }

    /** The suites whose steps use a variable by themselves. */
    public List<Suite> suites(String variable) {
        return desk.project().suites().stream()
                .filter(s -> VariableUse.in(s, variable))
                .toList();
    }

    /** The suites that call the current case, each with the first step that does: from there on what it captures has a value. */
    public Map<Suite, StepPath> callers() {
        String reference = call.currentProperty().get().reference();
        Map<Suite, StepPath> callers = new LinkedHashMap<>();
        for (Suite suite : desk.project().suites()) {
            suite.each((path, step) -> {
                if (step.sends().filter(reference::equals).isPresent()) {
                    callers.putIfAbsent(suite, path);
                }
            });
        }
        return callers;
    }

    private static String counted(int count, String what) {
        return count + " " + what + (count == 1 ? "" : "s");
    }

    /** Calls a variable by another name in cases that use it, and in the suites that do; that can be undone. */
    public void rename(String variable, String other) {
        Project before = desk.project();
        List<Case> users = users(variable);
        List<Suite> suites = suites(variable);
        desk.change(p -> {
            Project changed = p;
            for (Case user : users) {
                // the current one has its capture by the new name already
                Case now = changed.kept(user.reference()).orElse(user);
                changed = changed.withCase(VariableUse.renamed(now, variable, other));
            }
            for (Suite suite : suites) {
                changed = changed.withSuite(VariableUse.renamed(suite, variable, other));
            }
            return changed;
        });
        Case current = call.currentProperty().get();
        desk.project().kept(current.reference()).ifPresent(call::keep);
        desk.tell(new Notice(
                "$" + variable + " is $" + other + " in " + counted(users.size(), "case")
                        + (suites.isEmpty() ? "." : " and " + counted(suites.size(), "suite") + "."),
                false,
                Optional.of(new Notice.Action("Undo", () -> {
                    desk.change(p -> {
                        Project back = p;
                        for (Case user : users) {
                            back = back.withCase(before.kept(user.reference()).orElse(user));
                        }
                        for (Suite suite : suites) {
                            back = back.withSuite(suite);
                        }
                        return back;
                    });
                    desk.project().kept(current.reference()).ifPresent(call::keep);
                }))));
    }

    private void capture(String path, String label, String value) {
        List<Capture> captures = new ArrayList<>(call.currentProperty().get().captures());
        if (captures.stream().anyMatch(c -> c.path().equals(path))) {
            return;
        }
        String wanted = label.replaceAll("[^A-Za-z0-9_.-]", "").replaceAll("^[0-9.-]+", "");
        String base = wanted.isEmpty() ? "value" : wanted;
        String name = base;
        for (int i = 2; taken(captures, name); i++) {
            name = base + i;
        }
        captures.add(new Capture(name, path));
        call.keep(call.currentProperty().get().withCaptures(captures));
        call.captured(name, value);
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
