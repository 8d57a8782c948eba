package dev.mockbell.desktop.view.mock;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.Pause;
import dev.mockbell.mock.Turns;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Label;

/** Answers in the words of a list. */
final class AnswerWords {
    private AnswerWords() {}

    /** When it is given; empty for every request. */
    static String when(MockAnswer answer) {
        List<String> words = new ArrayList<>();
        if (!answer.when().isBlank()) {
            words.add(answer.when());
        }
        Turns turns = answer.turns();
        if (!turns.calls().isAll()) {
            words.add((turns.calls().toString().matches("\\d+") ? "time " : "times ")
                    + turns.calls()
                    + (turns.eachCaller() ? " of each caller" : ""));
        }
        if (!turns.caller().isEmpty()) {
            words.add("for " + turns.caller());
        }
        if (turns.choice() == Turns.Chosen.IN_TURN) {
            words.add("in turn");
        } else if (turns.choice() == Turns.Chosen.AT_RANDOM) {
            words.add("at random, weight " + turns.weight());
        }
        return String.join(" · ", words);
    }

    /** After how long, as short as can be. */
    static String after(MockAnswer answer) {
        return answer.pause().accept(new Pause.Visitor<String>() {
            @Override
            public String fixed(Pause.Fixed pause) {
                return pause.millis() == 0 ? "at once" : time(pause.millis());
            }

            @Override
            public String between(Pause.Between pause) {
                return pause.low() + "–" + time(pause.high());
            }

            @Override
            public String normal(Pause.Normal pause) {
                return time(pause.mean()) + " ± " + pause.deviation();
            }

            @Override
            public String exponential(Pause.Exponential pause) {
                return "about " + time(pause.mean());
            }
        });
    }

    private static String time(long millis) {
        return millis >= 10_000 && millis % 1_000 == 0 ? millis / 1_000 + " s" : millis + " ms";
    }

    /** What it says: a tag, and a title where that says more. */
    static List<Label> kind(MockAnswer answer) {
        List<Label> labels = new ArrayList<>(answer.content().accept(new Kind(answer.title())));
        if (!answer.trouble().isNone()) {
            labels.add(Parts.text(answer.trouble().kind().title().toLowerCase(java.util.Locale.ROOT), "tag", "failed"));
        }
        return labels;
    }

    private record Kind(String title) implements AnswerContent.Visitor<List<Label>> {
        private List<Label> tagged(String tag, String look) {
            return title.isEmpty() || title.equals(tag)
                    ? List.of(Parts.text(tag, "tag", look))
                    : List.of(Parts.text(tag, "tag", look), Parts.text(title, "table-text"));
        }

        @Override
        public List<Label> message(AnswerContent.Message content) {
            return title.equals("sample") ? tagged("sample", "fine") : tagged("message", "fine");
        }

        @Override
        public List<Label> fault(AnswerContent.Fault content) {
            return tagged("fault", "fault");
        }

        @Override
        public List<Label> requestBack(AnswerContent.RequestBack content) {
            return tagged("request back", "fine");
        }

        @Override
        public List<Label> file(AnswerContent.FileBody content) {
            return tagged("file", "fine");
        }

        @Override
        public List<Label> nothing(AnswerContent.Nothing content) {
            return tagged("empty", "bronze");
        }

        @Override
        public List<Label> passOn(AnswerContent.PassOn content) {
            return tagged("pass on", "link");
        }
    }
}
