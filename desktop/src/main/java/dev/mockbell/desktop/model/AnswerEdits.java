package dev.mockbell.desktop.model;

import dev.mockbell.contract.FaultDef;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.Turns;
import dev.mockbell.project.KeptContract;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.UnaryOperator;

/** What can be done to the mock that is looked at, and to the answers of its operation. Each change can be undone, in turn. */
public final class AnswerEdits {
    private static final int MOST_KEPT = 100;

    private final MocksModel model;
    private final Desk desk;
    private final Deque<MockPlan> before = new ArrayDeque<>();
    private final Deque<MockPlan> after = new ArrayDeque<>();
    private MockAnswer fresh;

    AnswerEdits(MocksModel model, Desk desk) {
        this.model = model;
        this.desk = desk;
        model.contractProperty().addListener((o, was, now) -> {
            before.clear();
            after.clear();
        });
    }

    private void keep(MockPlan plan) {
        model.plan().filter(was -> !was.equals(plan)).ifPresent(was -> {
            before.push(was);
            if (before.size() > MOST_KEPT) {
                before.removeLast();
            }
            after.clear();
            desk.steps().edited();
            model.keep(plan);
        });
    }

    private void keep(List<MockAnswer> answers) {
        keep(model.plan().orElseThrow().withAnswers(model.operationProperty().get(), answers));
    }

    /** What was done before cannot be undone any more. */
    void forget() {
        before.clear();
        after.clear();
    }

    /** Takes the last change back; false when there is none. */
    public boolean undo() {
        return turn(before, after);
    }

    /** Makes again what was taken back last; false when there is none. */
    public boolean redo() {
        return turn(after, before);
    }

    private boolean turn(Deque<MockPlan> from, Deque<MockPlan> to) {
        if (from.isEmpty()) {
            return false;
        }
        to.push(model.plan().orElseThrow());
        model.keep(from.pop());
        int last = model.answers().size() - 1;
        if (model.answerProperty().get() > last) {
            model.answerProperty().set(Math.max(0, last));
        }
        return true;
    }

    /** Adds an answer that says something, before the one that takes every request. */
    public void add(String title, AnswerContent content) {
        insert(new MockAnswer("false()", title, content));
    }

    /** Adds a message, as the last answer has it. */
    public void addMessage() {
        List<MockAnswer> list = model.answers();
        String body = list.stream()
                .map(MockAnswer::body)
                .filter(b -> !b.isEmpty())
                .reduce((a, b) -> b)
                .orElse("");
        insert(MockAnswer.message("false()", "message", body));
    }

    /** Adds a fault of the contract, for a condition to be typed. */
    public void addFault(FaultDef fault) {
        KeptContract kept = model.contractProperty().get();
        desk.tasks()
                .run(
                        () -> MockPlan.fault(kept.contract(), fault, "false()"),
                        made -> {
                            if (kept == model.contractProperty().get()) {
                                insert(made);
                            }
                        },
                        desk::tell);
    }

    /** Adds an answer as it is, where it takes effect: before the first that takes every request. */
    public void insert(MockAnswer made) {
        List<MockAnswer> list = new ArrayList<>(model.answers());
        int at = (int) list.stream().filter(MockAnswer::conditional).count();
        list.add(at, made);
        fresh = made;
        keep(list);
        model.answerProperty().set(at);
    }

    /** Whether an answer was added just now; asked once. */
    public boolean isFresh(MockAnswer answer) {
        boolean is = answer.equals(fresh);
        fresh = is ? null : fresh;
        return is;
    }

    /** Puts another answer in the place of one. What does not parse is kept as it was typed, and the mock goes on with what it had. */
    public void change(int index, MockAnswer changed) {
        List<MockAnswer> list = new ArrayList<>(model.answers());
        if (index < list.size() && !list.get(index).equals(changed)) {
            list.set(index, changed);
            keep(list);
            // one that is for every request now stands last
            int now = model.answers().indexOf(changed);
            if (now >= 0 && now != index && model.answerProperty().get() == index) {
                model.answerProperty().set(now);
            }
        }
    }

    /** A second one like it behind it. */
    public void duplicate(int index) {
        List<MockAnswer> list = new ArrayList<>(model.answers());
        MockAnswer copy = list.get(index);
        if (!copy.conditional()) {
            copy = copy.with(Turns.ALWAYS.with(Turns.Chosen.IN_TURN));
            list.add(index, copy);
            keep(list);
            model.answerProperty().set(index);
            return;
        }
        list.add(index + 1, copy);
        keep(list);
        model.answerProperty().set(index + 1);
    }

    /** One place up or down among those that are tried before the last. */
    public void move(int index, int by) {
        List<MockAnswer> list = new ArrayList<>(model.answers());
        int to = index + by;
        if (to < 0
                || to >= list.size()
                || !list.get(index).conditional()
                || !list.get(to).conditional()) {
            return;
        }
        list.add(to, list.remove(index));
        keep(list);
        model.answerProperty().set(to);
    }

    /** Takes an answer out; it can be brought back. */
    public void remove(int index) {
        List<MockAnswer> list = new ArrayList<>(model.answers());
        if (index >= list.size()) {
            return;
        }
        list.remove(index);
        keep(list);
        model.answerProperty().set(Math.max(0, index - 1));
        desk.tell(
                new Notice("Deleted the answer.", false, Optional.of(new Notice.Action("Bring it back", this::undo))));
    }

    /** Leaves an operation out of what is served, or takes it in again. */
    public void conceal(String operation, boolean concealed) {
        conduct(c -> {
            Set<String> all = new TreeSet<>(c.concealed());
            if (concealed) {
                all.add(operation);
            } else {
                all.remove(operation);
            }
            return c.concealing(all);
        });
    }

    /** Changes how the mock behaves beside its answers. */
    public void conduct(UnaryOperator<Conduct> change) {
        model.plan().ifPresent(plan -> keep(plan.with(change.apply(plan.conduct()))));
    }

    /** Changes the whole plan. */
    public void plan(UnaryOperator<MockPlan> change) {
        model.plan().ifPresent(plan -> keep(change.apply(plan)));
    }
}
