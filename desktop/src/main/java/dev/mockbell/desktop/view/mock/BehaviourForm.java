package dev.mockbell.desktop.view.mock;

import dev.mockbell.choice.Choice;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.Pause;
import dev.mockbell.mock.Times;
import dev.mockbell.mock.Trouble;
import dev.mockbell.mock.Turns;
import dev.mockbell.problem.Problem;
import java.util.function.Consumer;

/** For whom and how often an answer is given, after how long, and what is made wrong with it. */
final class BehaviourForm {
    private final Consumer<MockAnswer> keep;
    private final Consumer<Problem> flaw;

    /** How long to wait, as it is chosen. */
    private enum PauseKind implements Choice {
        FIXED("fixed", "Always as long"),
        BETWEEN("between", "From … to …"),
        NORMAL("normal", "About a mean (normal)"),
        EXPONENTIAL("exponential", "Mostly short (exponential)");

        private final String code;
        private final String title;

        PauseKind(String code, String title) {
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

    /** The kind of a pause, and its first number. */
    private static final class Kinds implements Pause.Visitor<PauseKind> {
        @Override
        public PauseKind fixed(Pause.Fixed pause) {
            return PauseKind.FIXED;
        }

        @Override
        public PauseKind between(Pause.Between pause) {
            return PauseKind.BETWEEN;
        }

        @Override
        public PauseKind normal(Pause.Normal pause) {
            return PauseKind.NORMAL;
        }

        @Override
        public PauseKind exponential(Pause.Exponential pause) {
            return PauseKind.EXPONENTIAL;
        }
    }

    /**
     * @param keep takes the changed answer
     * @param flaw hears what cannot be meant
     */
    BehaviourForm(Consumer<MockAnswer> keep, Consumer<Problem> flaw) {
        this.keep = keep;
        this.flaw = flaw;
    }

    void show(Form form, MockAnswer answer) {
        form.clear();
        form.heading("Whose turn");
        turns(form, answer);
        form.heading("After");
        pause(form, answer);
        form.heading("Trouble");
        trouble(form, answer);
    }

    private void turns(Form form, MockAnswer answer) {
        Turns turns = answer.turns();
        form.text("Times", "mock-times", turns.calls().toString(), "every time; 1, or 2-4, or 8-", text -> {
            try {
                keep.accept(answer.with(turns.with(Times.parse(text))));
            } catch (Problem problem) {
                flaw.accept(problem);
            }
        });
        form.choice(
                "Chosen",
                "mock-chosen",
                Turns.Chosen.values(),
                turns.choice(),
                choice -> keep.accept(answer.with(turns.with(choice))));
        if (turns.choice() == Turns.Chosen.AT_RANDOM) {
            form.number(
                    "Weight",
                    "mock-weight",
                    turns.weight(),
                    "1",
                    weight -> keep.accept(answer.with(turns.weighing(weight))));
        }
        form.text(
                "For the caller",
                "mock-caller",
                turns.caller(),
                "everybody; a user name or an address",
                text -> keep.accept(answer.with(turns.of(text))));
        if (!turns.calls().isAll() || turns.choice() == Turns.Chosen.IN_TURN) {
            form.toggle(
                    "",
                    "mock-each",
                    "each caller is counted alone",
                    turns.eachCaller(),
                    on -> keep.accept(answer.with(turns.each(on))));
        }
    }

    private void pause(Form form, MockAnswer answer) {
        Pause pause = answer.pause();
        PauseKind kind = pause.accept(new Kinds());
        form.choice("Wait", "mock-wait", PauseKind.values(), kind, chosen -> {
            if (chosen != kind) {
                long mean = pause instanceof Pause.Fixed fixed && fixed.millis() > 0 ? fixed.millis() : 100;
                keep.accept(answer.with(
                        switch (chosen) {
                            case FIXED -> new Pause.Fixed(mean);
                            case BETWEEN -> new Pause.Between(mean / 2, mean * 2);
                            case NORMAL -> new Pause.Normal(mean, mean / 4);
                            case EXPONENTIAL -> new Pause.Exponential(mean);
                        }));
            }
        });
        pause.accept(new Pause.Visitor<Void>() {
            @Override
            public Void fixed(Pause.Fixed p) {
                return millis(form, "Milliseconds", "mock-delay", p.millis(), answer, Pause.Fixed::new);
            }

            @Override
            public Void between(Pause.Between p) {
                millis(form, "From (ms)", "mock-low", p.low(), answer, m -> new Pause.Between(m, p.high()));
                return millis(form, "To (ms)", "mock-high", p.high(), answer, m -> new Pause.Between(p.low(), m));
            }

            @Override
            public Void normal(Pause.Normal p) {
                millis(form, "Mean (ms)", "mock-mean", p.mean(), answer, m -> new Pause.Normal(m, p.deviation()));
                return millis(
                        form,
                        "Deviation (ms)",
                        "mock-deviation",
                        p.deviation(),
                        answer,
                        m -> new Pause.Normal(p.mean(), m));
            }

            @Override
            public Void exponential(Pause.Exponential p) {
                return millis(form, "Mean (ms)", "mock-mean", p.mean(), answer, Pause.Exponential::new);
            }
        });
    }

    private interface Made {
        Pause of(long millis);
    }

    private Void millis(Form form, String key, String id, long now, MockAnswer answer, Made made) {
        form.text(key, id, String.valueOf(now), "0", text -> {
            if (text.matches("\\d{1,7}")) {
                keep.accept(answer.with(made.of(Long.parseLong(text))));
            } else {
                flaw.accept(Problem.input("“" + text + "” is not a whole number of milliseconds", null, null));
            }
        });
        return null;
    }

    private void trouble(Form form, MockAnswer answer) {
        Trouble trouble = answer.trouble();
        form.choice("Make wrong", "mock-trouble", Trouble.Kind.values(), trouble.kind(), kind -> {
            if (kind != trouble.kind()) {
                keep.accept(answer.with(Trouble.of(kind)));
            }
        });
        if (!trouble.kind().unit().isEmpty()) {
            form.number(
                    "",
                    "mock-amount",
                    trouble.amount(),
                    trouble.kind().unit(),
                    amount -> keep.accept(answer.with(new Trouble(trouble.kind(), amount))));
            form.note("in " + trouble.kind().unit());
        }
    }
}
