package dev.mockbell.desktop.view.check;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;

/** Asks for what a step does; what cannot be meant is said in the form. */
final class StepForm {
    private final Desk desk;
    private final Suite suite;
    private final Form form = new Form();
    private final TextField name;
    private final Supplier<Step> typed;

    private StepForm(Desk desk, Suite suite, Step step) {
        this.desk = desk;
        this.suite = suite;
        this.name = Form.field("step-name", step.name(), "what people call it");
        form.row("name", name);
        this.typed = step.accept(new Fields());
    }

    /**
     * Asks over the window that shows {@code within}.
     *
     * @param step what stands in the fields at first
     * @param then hears what is meant
     */
    static void ask(Node within, Desk desk, Suite suite, String title, Step step, Consumer<Step> then) {
        StepForm asked = new StepForm(desk, suite, step);
        Asking.ask(
                within,
                title,
                asked.form,
                "step",
                () -> asked.typed.get().named(Asking.needed(asked.name.getText(), "The name")),
                then);
        asked.name.requestFocus();
        asked.name.selectAll();
    }

    private static long number(TextField field, String what, long least, long most) {
        String text = field.getText().strip();
        if (!text.matches("[0-9]{1,9}") || Long.parseLong(text) < least || Long.parseLong(text) > most) {
            throw Problem.input(
                    "“" + text + "” is no " + what, null, "Write a whole number from " + least + " to " + most + ".");
        }
        return Long.parseLong(text);
    }

    /** The fields of each kind; gives what makes the step that is typed, but for its name. */
    private final class Fields implements Step.Visitor<Supplier<Step>> {
        private TextField field(String key, String id, String value, String prompt) {
            TextField field = Form.field(id, value, prompt);
            form.row(key, field);
            return field;
        }

        private <T> ComboBox<T> choice(String key, String id, List<T> all, T now, Function<T, String> words) {
            ComboBox<T> box = new ComboBox<>();
            box.getItems().setAll(all);
            box.setConverter(new javafx.util.StringConverter<>() {
                @Override
                public String toString(T value) {
                    return value == null ? "" : words.apply(value);
                }

                @Override
                public T fromString(String text) {
                    return null;
                }
            });
            box.setValue(now);
            box.setId(id);
            box.setMaxWidth(360);
            form.row(key, box);
            return box;
        }

        @Override
        public Supplier<Step> call(Step.Call step) {
            ComboBox<Case> kept = choice(
                    "case",
                    "step-case",
                    desk.project().cases(),
                    desk.project().kept(step.caseReference()).orElse(null),
                    c -> c.operation() + " · " + c.title());
            return () -> {
                if (kept.getValue() == null) {
                    throw Problem.input("The case is missing", null, "Choose one.");
                }
                return new Step.Call(step.name(), step.on(), kept.getValue().reference(), step.known());
            };
        }

        @Override
        public Supplier<Step> pause(Step.Pause step) {
            TextField millis = field("milliseconds", "step-millis", String.valueOf(step.millis()), "");
            return () ->
                    new Step.Pause(step.name(), step.on(), number(millis, "number of milliseconds", 0, 86_400_000));
        }

        @Override
        public Supplier<Step> group(Step.Group step) {
            return () -> step;
        }

        @Override
        public Supplier<Step> until(Step.Until step) {
            TextField condition = field(
                    "until",
                    "step-condition",
                    step.condition(),
                    "//state = 'CONFIRMED', an XPath over the last answer");
            TextField times = field("at most", "step-times", String.valueOf(step.times()), "times");
            TextField every = field("every, in ms", "step-every", String.valueOf(step.everyMillis()), "milliseconds");
            form.note("The steps in it are repeated; $status, $millis and all variables are there too.");
            return () -> new Step.Until(
                    step.name(),
                    step.on(),
                    Asking.needed(condition.getText(), "The condition"),
                    (int) number(times, "number of times", 1, 1_000_000),
                    number(every, "number of milliseconds", 0, 86_400_000),
                    step.inner());
        }

        @Override
        public Supplier<Step> suite(Step.RunSuite step) {
            List<Suite> others = desk.project().suites().stream()
                    .filter(s -> suite == null || !s.id().equals(suite.id()))
                    .toList();
            ComboBox<Suite> other = choice(
                    "suite",
                    "step-suite",
                    others,
                    desk.project().suite(step.suite()).orElse(null),
                    Suite::title);
            TextField values = field(
                    "with values",
                    "step-values",
                    step.values().entrySet().stream()
                            .sorted(Map.Entry.comparingByKey())
                            .map(e -> e.getKey() + "=" + e.getValue())
                            .collect(Collectors.joining("; ")),
                    "nights=2; guest={$name}");
            return () -> {
                if (other.getValue() == null) {
                    throw Problem.input("The suite is missing", null, "Choose one.");
                }
                return new Step.RunSuite(
                        step.name(), step.on(), other.getValue().id(), pairs(values.getText()));
            };
        }

        private Map<String, String> pairs(String text) {
            Map<String, String> all = new LinkedHashMap<>();
            for (String pair : text.split(";")) {
                if (!pair.isBlank()) {
                    int equals = pair.indexOf('=');
                    if (equals < 1) {
                        throw Problem.input("“" + pair.strip() + "” gives no value", null, "Write name=value.");
                    }
                    all.put(
                            pair.substring(0, equals).strip(),
                            pair.substring(equals + 1).strip());
                }
            }
            return all;
        }

        @Override
        public Supplier<Step> choose(Step.Choose step) {
            TextField condition =
                    field("when", "step-condition", step.condition(), "$total > 100, an XPath over the last answer");
            form.note("What holds goes under “then”, the rest under “otherwise”.");
            return () -> new Step.Choose(
                    step.name(),
                    step.on(),
                    Asking.needed(condition.getText(), "The condition"),
                    step.then(),
                    step.otherwise());
        }

        @Override
        public Supplier<Step> forEach(Step.ForEach step) {
            if (step.table().isPresent()) {
                DataTable table = step.table().get();
                TextArea rows = new TextArea(table.csv());
                rows.setId("step-rows");
                rows.setPrefRowCount(8);
                form.row("rows", rows);
                form.note(
                        "The first row names the columns, which are variables then. Paste from a spreadsheet, or CSV.");
                return () -> new Step.ForEach(
                        step.name(),
                        step.on(),
                        Optional.of(DataTable.parse(table.file(), rows.getText())),
                        "",
                        "",
                        step.inner());
            }
            TextField nodes = field("each of", "step-nodes", step.nodes(), "//hut, an XPath over the last answer");
            TextField as = field("as", "step-as", step.variable(), "the name of a variable");
            return () -> new Step.ForEach(
                    step.name(),
                    step.on(),
                    Optional.empty(),
                    Asking.needed(nodes.getText(), "The path"),
                    Asking.needed(as.getText(), "The variable").replaceFirst("^\\$", ""),
                    step.inner());
        }
    }
}
