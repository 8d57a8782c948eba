package dev.mockbell.upkeep;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChange.Kind;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Half;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LostCases;
import dev.mockbell.project.Project;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.WrittenExpressions;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.Fit;
import dev.mockbell.validation.Fit.Misfit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/** What the changes of one operation touch. */
final class OperationUpkeep {
    /** Rows of known values of one step that are looked at. */
    private static final int MOST_ROWS = 2_000;

    private final Project project;
    private final KeptContract kept;
    private final Contract is;
    private final String operation;
    private final List<ContractChange> changes;
    private final StopSignal stop;
    private final Optional<Operation> before;
    private final Optional<Operation> after;
    private final List<Touched> touched = new ArrayList<>();

    OperationUpkeep(
            Project project,
            KeptContract kept,
            ContractChanges all,
            String operation,
            List<ContractChange> changes,
            StopSignal stop) {
        this.project = project;
        this.kept = kept;
        this.is = all.is();
        this.operation = operation;
        this.changes = changes;
        this.stop = stop;
        this.before = all.was().operation(operation, null).map(b -> b.operation());
        this.after = is.operation(operation, null)
                .map(b -> b.operation())
                // one that is found by its name alone is another of that name
                .filter(o -> o.key().equals(operation));
    }

    List<Touched> touched() {
        if (before.isEmpty()) {
            return List.of();
        }
        List<Case> cases = project.cases(kept.name(), operation);
        if (after.isEmpty()) {
            gone(cases);
            return touched;
        }
        for (Case c : cases) {
            stop.check();
            request(c);
            answers(c);
            baseline(c);
        }
        knownValues();
        mockAnswers();
        return touched;
    }

    private void gone(List<Case> cases) {
        for (Case c : cases) {
            List<Way> ways = new ArrayList<>();
            renamed()
                    .ifPresent(other ->
                            ways.add(new Way("move", "goes to " + other, p -> moved(p, c.reference(), other))));
            ways.add(Way.LEAVE);
            add(
                    Touched.Kind.CASE,
                    c.title(),
                    c.reference(),
                    "its operation is gone; it stays in the folder",
                    changes,
                    ways);
        }
        project.mock(kept.name())
                .filter(m -> m.decides(operation))
                .ifPresent(m -> m.of(operation)
                        .forEach(a -> add(
                                Touched.Kind.MOCK_ANSWER,
                                a.title(),
                                operation,
                                "its operation is gone",
                                changes,
                                List.of(Way.LEAVE))));
    }

    private Optional<String> renamed() {
        return changes.stream()
                .filter(c -> c.half() == Half.OPERATION)
                .flatMap(c -> c.renamedTo().stream())
                .findFirst();
    }

    private static Project moved(Project project, String reference, String other) {
        Optional<Case> found = project.kept(reference);
        if (found.isEmpty()) {
            return project;
        }
        Case c = found.get();
        KeptContract contract = project.contract(c.contract()).orElseThrow();
        LostCases lost = new LostCases(contract, c.operation(), List.of(c), Optional.of(other));
        return lost.moved(project);
    }

    private void request(Case c) {
        // one that expects a fault may be wrong on purpose
        if (c.checks().stream().anyMatch(Check::wantsFault)) {
            return;
        }
        MessageOutline outline = MessageOutline.ofRequest(is, after.orElseThrow());
        Fit fit = Fit.of(outline, c.body());
        List<Misfit> fresh = fresh(fit, MessageOutline.ofRequest(kept.contract(), before.orElseThrow()), c.body());
        if (fresh.isEmpty()) {
            return;
        }
        List<Way> ways = new ArrayList<>();
        boolean mends = !fit.steps().isEmpty();
        Way refused = new Way("expect a fault", "expects a fault now", p -> expectingFault(p, c.reference()));
        if (mends) {
            String body = c.body();
            ways.add(new Way(
                    "mend",
                    String.join("; ", fit.steps()),
                    p -> with(p, c.reference(), k -> k.body().equals(body) ? k.withBody(fit.proposal()) : k)));
        }
        // where nothing can be mended, only a person can tell what else to send
        ways.add(mends ? refused : Way.LEAVE);
        ways.add(mends ? Way.LEAVE : refused);
        add(Touched.Kind.CASE, c.title(), c.reference(), words(fresh), causes(fresh, Half.TAKES), ways);
    }

    private static Project expectingFault(Project project, String reference) {
        return with(
                project,
                reference,
                k -> k.withChecks(List.of(new Check.FaultIs(""))).withCaptures(List.of()));
    }

    private static Project with(Project project, String reference, UnaryOperator<Case> change) {
        return project.kept(reference)
                .map(k -> project.withCase(change.apply(k)))
                .orElse(project);
    }

    /** What does not fit now and did before. */
    private static List<Misfit> fresh(Fit fit, MessageOutline old, String text) {
        if (fit.isGood()) {
            return List.of();
        }
        Set<Misfit> known = new HashSet<>(Fit.of(old, text).misfits());
        return fit.misfits().stream().filter(m -> !known.contains(m)).toList();
    }

    private static String words(List<Misfit> misfits) {
        String first = misfits.get(0).toString();
        return misfits.size() == 1 ? first : first + "; and " + (misfits.size() - 1) + " more";
    }

    /** The changes that a message does not fit for, by their places; all of that half where none can be told. */
    private List<ContractChange> causes(List<Misfit> misfits, Half half) {
        List<ContractChange> of = changes.stream().filter(c -> c.half() == half).toList();
        List<ContractChange> found = of.stream()
                .filter(c -> misfits.stream().anyMatch(m -> isAt(m.path(), c)))
                .toList();
        return found.isEmpty() ? of : found;
    }

    private static boolean isAt(String path, ContractChange change) {
        String plain = Paths.plain(path);
        String changed = Paths.plain("/Root/" + change.path());
        Optional<String> fresh = change.renamedTo();
        if (fresh.isPresent()) {
            int slash = changed.lastIndexOf('/');
            String now = (slash < 0 ? "" : changed.substring(0, slash + 1)) + fresh.get();
            return Paths.isWithin(plain, changed) || Paths.isWithin(plain, now);
        }
        return !changed.isEmpty()
                && (Paths.isWithin(plain, changed) || Paths.isWithin(changed, plain) && !plain.isEmpty());
    }

    /** What a case asks of the answer, and what it takes out of it. */
    private void answers(Case c) {
        for (ContractChange change : changes) {
            boolean ofAnswer = change.half() == Half.GIVES;
            boolean unnamed = change.kind() != Kind.GONE && change.kind() != Kind.RENAMED;
            if (unnamed || change.path().isEmpty() || !ofAnswer && change.half() != Half.TAKES) {
                continue;
            }
            NamedStep step = NamedStep.of(change.path());
            for (Check check : ofAnswer ? c.checks() : List.<Check>of()) {
                if (!written(step.renaming(step.name() + "0"))
                        .checks(List.of(check))
                        .equals(List.of(check))) {
                    add(
                            Touched.Kind.CHECK,
                            check.title(),
                            c.reference(),
                            "of case “" + c.title() + "”, looks at " + step.name(),
                            List.of(change),
                            ways(
                                    change,
                                    step,
                                    (p, by) -> with(
                                            p,
                                            c.reference(),
                                            k -> k.withChecks(written(by).checks(k.checks())))));
                }
            }
            for (Capture capture : c.captures()) {
                if (capture.fromRequest() != ofAnswer && step.isIn(capture.path())) {
                    add(
                            Touched.Kind.CAPTURE,
                            "$" + capture.name(),
                            c.reference(),
                            "of case “" + c.title() + "”, takes " + step.name(),
                            List.of(change),
                            ways(
                                    change,
                                    step,
                                    (p, by) -> with(p, c.reference(), k -> renamedCaptures(k, !ofAnswer, by))));
                }
            }
        }
    }

    private static Case renamedCaptures(Case kept, boolean ofRequest, UnaryOperator<String> by) {
        return kept.withCaptures(kept.captures().stream()
                .map(c -> c.fromRequest() == ofRequest
                        ? new Capture(c.name(), by.apply(c.path()), c.takes(), c.fromRequest())
                        : c)
                .toList());
    }

    /** Puts names of a message by others. */
    @FunctionalInterface
    private interface Renaming {
        Project of(Project project, UnaryOperator<String> by);
    }

    private static List<Way> ways(ContractChange change, NamedStep step, Renaming renaming) {
        Optional<String> fresh = change.renamedTo();
        if (fresh.isEmpty()) {
            return List.of(Way.LEAVE);
        }
        UnaryOperator<String> by = step.renaming(fresh.get());
        String words = step.name() + " becomes " + fresh.get();
        return List.of(new Way("rename", words, p -> renaming.of(p, by)), Way.LEAVE);
    }

    private static WrittenExpressions written(UnaryOperator<String> xpath) {
        return new WrittenExpressions(xpath, UnaryOperator.identity());
    }

    private void baseline(Case c) {
        if (c.baseline().isEmpty()
                || after.orElseThrow().output().isEmpty()
                || before.orElseThrow().output().isEmpty()) {
            return;
        }
        String xml = c.baseline().get().xml();
        Fit fit = Fit.of(MessageOutline.of(is, after.get().output().get()), xml);
        List<Misfit> fresh = fresh(
                fit, MessageOutline.of(kept.contract(), before.get().output().get()), xml);
        if (!fresh.isEmpty()) {
            add(
                    Touched.Kind.BASELINE,
                    c.title(),
                    c.reference(),
                    words(fresh),
                    causes(fresh, Half.GIVES),
                    List.of(Way.LEAVE));
        }
    }

    private void mockAnswers() {
        Optional<MockPlan> plan = project.mock(kept.name());
        if (plan.isEmpty()
                || after.orElseThrow().output().isEmpty()
                || before.orElseThrow().output().isEmpty()) {
            return;
        }
        MessageOutline now = MessageOutline.of(is, after.get().output().get());
        MessageOutline old =
                MessageOutline.of(kept.contract(), before.get().output().get());
        List<MockAnswer> all = plan.get().of(operation);
        for (MockAnswer answer : all) {
            String xml = answer.content().isFault() ? "" : answer.body();
            if (xml.isBlank()) {
                continue;
            }
            Fit fit = Fit.of(now, xml);
            List<Misfit> fresh = fresh(fit, old, xml);
            if (!fresh.isEmpty()) {
                List<Way> ways = new ArrayList<>();
                if (!fit.steps().isEmpty()) {
                    ways.add(new Way(
                            "mend", String.join("; ", fit.steps()), p -> mended(p, answer, xml, fit.proposal())));
                }
                ways.add(Way.LEAVE);
                add(Touched.Kind.MOCK_ANSWER, answer.title(), operation, words(fresh), causes(fresh, Half.GIVES), ways);
            }
        }
        conditions(all);
    }

    private Project mended(Project p, MockAnswer answer, String was, String xml) {
        return withAnswers(p, a -> a.title().equals(answer.title()) && a.body().equals(was) ? a.withBody(xml) : a);
    }

    private Project withAnswers(Project p, UnaryOperator<MockAnswer> change) {
        return p.mock(kept.name())
                .map(m -> p.withMock(m.withAnswers(
                        operation, m.of(operation).stream().map(change).toList())))
                .orElse(p);
    }

    /** Answers that ask for what is not in the request any more. */
    private void conditions(List<MockAnswer> all) {
        for (ContractChange change : changes) {
            boolean named =
                    change.half() == Half.TAKES && (change.kind() == Kind.GONE || change.kind() == Kind.RENAMED);
            NamedStep step = named ? NamedStep.of(change.path()) : null;
            for (MockAnswer answer : named ? all : List.<MockAnswer>of()) {
                if (step.isIn(answer.when())) {
                    add(
                            Touched.Kind.MOCK_ANSWER,
                            answer.title(),
                            operation,
                            "asks for " + step.name() + " in the request",
                            List.of(change),
                            ways(change, step, (p, by) -> withAnswers(p, a -> a.withWhen(by.apply(a.when())))));
                }
            }
        }
    }

    private void knownValues() {
        for (Suite suite : project.suites()) {
            suite.all().forEach(step -> {
                if (step instanceof Step.Call call && call.known().isPresent()) {
                    project.kept(call.caseReference())
                            .filter(c -> c.contract().equals(kept.name())
                                    && c.operation().equals(operation))
                            .ifPresent(c -> knownValues(suite, call, c));
                }
            });
        }
    }

    private void knownValues(Suite suite, Step.Call call, Case c) {
        KnownValues known = call.known().orElseThrow();
        MessageOutline now = MessageOutline.ofRequest(is, after.orElseThrow());
        MessageOutline old = MessageOutline.ofRequest(kept.contract(), before.orElseThrow());
        Set<Misfit> ofCase = new HashSet<>(Fit.of(now, c.body()).misfits());
        for (KnownValues.Column column : known.columns()) {
            boolean sets = column.use() == KnownValues.Use.SETS;
            List<ContractChange> at = changes.stream()
                    .filter(ch -> ch.half() == (sets ? Half.TAKES : Half.GIVES)
                            && !ch.path().isEmpty()
                            && NamedStep.of(ch.path()).isIn(column.path()))
                    .toList();
            if (at.isEmpty()) {
                continue;
            }
            ContractChange first = at.get(0);
            if (!sets && (first.kind() == Kind.GONE || first.kind() == Kind.RENAMED)) {
                add(
                        Touched.Kind.KNOWN_VALUE,
                        "column " + column.name(),
                        suite.id(),
                        "of step “" + call.name() + "” looks at "
                                + NamedStep.of(first.path()).name(),
                        at,
                        List.of(Way.LEAVE));
            }
            for (int row = 0;
                    sets && row < Math.min(MOST_ROWS, known.table().rows().size());
                    row++) {
                stop.check();
                row(suite, call, c, known, row, now, old, ofCase, at);
            }
        }
    }

    private void row(
            Suite suite,
            Step.Call call,
            Case c,
            KnownValues known,
            int row,
            MessageOutline now,
            MessageOutline old,
            Set<Misfit> ofCase,
            List<ContractChange> at) {
        try {
            Case set = known.applied(c, row, old);
            boolean wantsFault = set.checks().stream().anyMatch(Check::wantsFault);
            List<Misfit> fresh = wantsFault
                    ? List.of()
                    : fresh(Fit.of(now, set.body()), old, set.body()).stream()
                            .filter(m -> !ofCase.contains(m))
                            .filter(m -> at.stream().anyMatch(ch -> isAt(m.path(), ch)))
                            .toList();
            if (!fresh.isEmpty()) {
                add(
                        Touched.Kind.KNOWN_VALUE,
                        "row " + (row + 1) + " of “" + call.name() + "”",
                        suite.id(),
                        words(fresh),
                        at,
                        List.of(Way.LEAVE));
            }
        } catch (Problem leadsNowhere) {
            // a column that did not lead anywhere before is no matter of this change
            stop.check();
        }
    }

    private void add(Touched.Kind kind, String name, String at, String words, List<ContractChange> by, List<Way> ways) {
        touched.add(new Touched(kind, name, at, words, by, ways));
    }
}
