package dev.mockbell.desktop.view.mock;

import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.mock.MemoryStep;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** What is remembered and forgotten with an answer. */
final class MemoryForm {
    private static final double NAME = 110;
    private static final double KEY = 150;

    private final Consumer<MockAnswer> keep;
    private final Consumer<Problem> flaw;

    MemoryForm(Consumer<MockAnswer> keep, Consumer<Problem> flaw) {
        this.keep = keep;
        this.flaw = flaw;
    }

    void show(Form form, MockAnswer answer) {
        form.clear();
        List<MemoryStep.Remember> kept = new ArrayList<>();
        List<MemoryStep.Forget> gone = new ArrayList<>();
        answer.after()
                .forEach(step -> step.accept(new MemoryStep.Visitor<Void>() {
                    @Override
                    public Void remember(MemoryStep.Remember one) {
                        kept.add(one);
                        return null;
                    }

                    @Override
                    public Void forget(MemoryStep.Forget one) {
                        gone.add(one);
                        return null;
                    }
                }));
        form.heading("Remember");
        new RowList<MemoryStep.Remember>(
                        "mock-remember",
                        List.of(
                                new RowList.Column<>("name", NAME, MemoryStep.Remember::name),
                                new RowList.Column<>("under (optional)", KEY, MemoryStep.Remember::key),
                                new RowList.Column<>("an XPath over $request, $answer", 0, MemoryStep.Remember::value)),
                        texts -> new MemoryStep.Remember(name(texts.get(0)), texts.get(1), texts.get(2)),
                        changed -> keep(answer, changed, gone))
                .show(form, kept, "Remember a value", new MemoryStep.Remember("value", "", "$request"));
        form.note("Later answers see it as $name, or $name?(key) where it is kept under one.");
        form.heading("Forget");
        new RowList<MemoryStep.Forget>(
                        "mock-forget",
                        List.of(
                                new RowList.Column<>("name", NAME, MemoryStep.Forget::name),
                                new RowList.Column<>(
                                        "under; all of it where this is empty", 0, MemoryStep.Forget::key)),
                        texts -> new MemoryStep.Forget(name(texts.get(0)), texts.get(1)),
                        changed -> keep(answer, kept, changed))
                .show(form, gone, "Forget a value", new MemoryStep.Forget("value", ""));
    }

    private void keep(MockAnswer answer, List<MemoryStep.Remember> kept, List<MemoryStep.Forget> gone) {
        List<MemoryStep> all = new ArrayList<>(kept);
        all.addAll(gone);
        for (MemoryStep step : all) {
            if (!step.name().matches("[A-Za-z_][A-Za-z0-9_.-]*")) {
                flaw.accept(Problem.input(
                        "“" + step.name() + "” is no name of a value: letters, digits, _ . and -, a letter first",
                        null,
                        null));
                return;
            }
        }
        keep.accept(answer.withAfter(all));
    }

    private static String name(String typed) {
        return typed.replaceFirst("^\\$", "");
    }
}
