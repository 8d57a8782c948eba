package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.mock.Learning;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Makes answers of mocks from exchanges of the ledger. */
public final class MockLearning {
    /** More exchanges are not learnt from at once. */
    public static final int MOST = 1_000;

    private final MocksModel model;
    private final Desk desk;

    MockLearning(MocksModel model, Desk desk) {
        this.model = model;
        this.desk = desk;
    }

    /**
     * How to learn.
     *
     * @param inTime whether answers wait as long as they took
     * @param instead whether they take the place of what the operations answered before; else they are tried before that
     */
    public record Wish(boolean inTime, boolean instead) {}

    /** What was learnt from exchanges of one contract. */
    private record Lesson(KeptContract contract, MockPlan plan, Learning.Learnt learnt) {
        int answers() {
            return learnt.answers().values().stream().mapToInt(List::size).sum();
        }
    }

    /** Learns from exchanges and goes to where the answers are; what taught nothing is said. */
    public void learn(List<Long> ids, Wish wish) {
        List<Long> taken = ids.stream().sorted().limit(MOST).toList();
        List<KeptContract> contracts = desk.project().contracts();
        desk.tasks()
                .run(
                        () -> {
                            desk.ledger().settle();
                            List<Exchange> all = new ArrayList<>();
                            taken.forEach(id -> desk.ledger().get(id).ifPresent(all::add));
                            return lessons(all, contracts, wish);
                        },
                        lessons -> keep(lessons, ids.size() - taken.size()),
                        desk::tell);
    }

    private List<Lesson> lessons(List<Exchange> exchanges, List<KeptContract> contracts, Wish wish) {
        Map<String, List<Exchange>> byContract = new LinkedHashMap<>();
        exchanges.forEach(e ->
                byContract.computeIfAbsent(e.contract(), c -> new ArrayList<>()).add(e));
        List<Lesson> lessons = new ArrayList<>();
        for (KeptContract kept : contracts) {
            List<Exchange> own = byContract.getOrDefault(kept.name(), List.of());
            if (own.isEmpty()) {
                continue;
            }
            Learning.Learnt learnt = Learning.from(kept.contract(), own, wish.inTime());
            MockPlan plan = model.plan(kept);
            for (Map.Entry<String, List<MockAnswer>> entry : learnt.answers().entrySet()) {
                List<MockAnswer> answers = new ArrayList<>(entry.getValue());
                if (!wish.instead()) {
                    List<MockAnswer> before = plan.decides(entry.getKey())
                            ? plan.of(entry.getKey())
                            : MockPlan.samples(kept.contract(), entry.getKey());
                    answers = new ArrayList<>(
                            Learning.conditioned(answers, firstOf(own, entry.getKey()), !before.isEmpty()));
                    answers.addAll(before);
                }
                plan = plan.withAnswers(entry.getKey(), answers);
            }
            lessons.add(new Lesson(kept, plan, learnt));
        }
        return lessons;
    }

    private static Optional<Exchange> firstOf(List<Exchange> exchanges, String operation) {
        return exchanges.stream().filter(e -> e.operation().equals(operation)).findFirst();
    }

    private void keep(List<Lesson> lessons, int beyond) {
        int answers = lessons.stream().mapToInt(Lesson::answers).sum();
        List<String> left =
                lessons.stream().flatMap(l -> l.learnt().leftOut().stream()).toList();
        if (answers == 0) {
            desk.tell(Problem.input(
                    "Nothing was learnt"
                            + (left.isEmpty() ? ": the exchanges belong to no contract here" : ": " + left.get(0)),
                    null,
                    null));
            return;
        }
        for (Lesson lesson : lessons) {
            lesson.learnt().answers().keySet().stream()
                    .findFirst()
                    .ifPresent(operation -> model.look(lesson.contract(), operation));
            model.edits().plan(now -> lesson.plan());
        }
        desk.go(Station.MOCK);
        String rest = left.isEmpty() ? "" : "; " + left.size() + " exchanges taught nothing: " + left.get(0);
        String more = beyond > 0 ? "; " + beyond + " more were left out" : "";
        desk.tell(new Notice(
                "Made " + answers + (answers == 1 ? " answer" : " answers") + " of the traffic" + rest + more,
                false,
                Optional.of(new Notice.Action("Take it back", model.edits()::undo))));
    }
}
