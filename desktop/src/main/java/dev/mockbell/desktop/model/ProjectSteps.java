package dev.mockbell.desktop.model;

import dev.mockbell.project.ChangedPart;
import dev.mockbell.project.Part;
import dev.mockbell.project.Project;
import dev.mockbell.project.TakingBack;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * What was done to the project as a whole, such as a deletion or another order, so that it can be taken back and done again from
 * wherever one is. Edits of a message, of answers and of a suite have a history of their own, where they are made. Used on the
 * interface thread.
 */
public final class ProjectSteps {
    private static final int MOST = 200;

    private final Desk desk;
    private final Deque<Step> done = new ArrayDeque<>();
    private final Deque<Step> undone = new ArrayDeque<>();
    private Consumer<Part> show = part -> {};
    private boolean doneLast;
    private boolean undoneLast;

    /**
     * One that can be taken back.
     *
     * @param words what was done, as a sentence
     */
    private record Step(String words, Runnable back, Runnable again) {}

    ProjectSteps(Desk desk) {
        this.desk = desk;
    }

    /** Goes to a part that is there again. */
    void onShow(Consumer<Part> action) {
        show = action;
    }

    /** Something else was edited since, which is what is taken back first. */
    void edited() {
        doneLast = false;
        undoneLast = false;
    }

    /** Whether the latest of all that was done, or taken back, is one of these. */
    public boolean isLatest(boolean redo) {
        return redo ? undoneLast : doneLast;
    }

    /** Changes the project, so that it can be taken back. */
    void does(String words, UnaryOperator<Project> change) {
        changed(words, change);
    }

    /** As {@link #does}, and tells of it with a way to take it back. */
    void tells(String words, UnaryOperator<Project> change) {
        Step step = changed(words, change);
        tell(step);
    }

    /** Tells of what was done already, with what takes it back and does it again. */
    void tells(String words, Runnable back, Runnable again) {
        Step step = new Step(words, back, again);
        push(step);
        tell(step);
    }

    private Step changed(String words, UnaryOperator<Project> change) {
        Project was = desk.project();
        desk.change(change);
        Project is = desk.project();
        // a step is kept for long, and no contract with it
        Project before = was.withoutContracts();
        Project after = is.withoutContracts();
        Step step = new Step(words, () -> turn(before, after), () -> turn(after, before));
        if (was != is) {
            push(step);
        }
        return step;
    }

    private void push(Step step) {
        done.push(step);
        if (done.size() > MOST) {
            done.removeLast();
        }
        undone.clear();
        doneLast = true;
        undoneLast = false;
    }

    private void tell(Step step) {
        desk.tell(new Notice(step.words(), false, Optional.of(new Notice.Action("Bring it back", () -> {
            if (done.remove(step)) {
                take(step);
            }
        }))));
    }

    /**
     * Takes the latest back, or does again what was taken back last.
     *
     * @return false when there is none
     */
    public boolean turn(boolean redo) {
        if (redo && !undone.isEmpty()) {
            Step step = undone.pop();
            step.again().run();
            done.push(step);
            doneLast = true;
            undoneLast = !undone.isEmpty();
            desk.tell(Notice.plain("Done again: " + step.words()));
            return true;
        }
        if (!redo && !done.isEmpty()) {
            take(done.pop());
            return true;
        }
        return false;
    }

    private void take(Step step) {
        desk.notices().removeIf(n -> n.text().equals(step.words()));
        step.back().run();
        undone.push(step);
        undoneLast = true;
        doneLast = !done.isEmpty();
        desk.tell(Notice.plain("Taken back: " + step.words()));
    }

    /** The project as it was at one end, where it is as it was made at the other. */
    private void turn(Project to, Project from) {
        TakingBack back = TakingBack.of(to, from, desk.project());
        desk.change(p -> back.project());
        desk.took(back.parts());
        back.parts().stream()
                .filter(p -> !p.gone())
                .map(ChangedPart::part)
                .findFirst()
                .ifPresent(show);
        List<String> left = back.left();
        if (!left.isEmpty()) {
            desk.tell(Notice.bad(left.get(0) + " stays as it is: it was changed since."));
        }
    }
}
