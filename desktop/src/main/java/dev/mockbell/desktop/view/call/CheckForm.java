package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Check;
import dev.mockbell.choice.Choice;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/**
 * Asks for what a check says: its fields by kind, whether the opposite is meant, and whether the run goes on when it fails.
 * What cannot be meant is said in the form, and nothing is lost of what was typed.
 */
final class CheckForm {
    private final Form form = new Form();
    private final CheckBox opposite = new CheckBox("the opposite must hold");
    private final CheckBox stops = new CheckBox("go no further when it fails");
    private final Supplier<Check> typed;

    private CheckForm(Check check) {
        this.typed = check.bare().accept(new Fields());
        boolean not = check instanceof Check.Not || check instanceof Check.Stopping s && s.of() instanceof Check.Not;
        opposite.setSelected(not);
        opposite.setId("check-not");
        stops.setSelected(check.stops());
        stops.setId("check-stops");
        if (check.bare().negatable()) {
            form.row("", opposite);
        }
        form.row("", stops);
    }

    /**
     * Asks over the window that shows {@code within}.
     *
     * @param check what stands in the fields at first
     * @param then hears what is meant
     */
    static void ask(Node within, String title, Check check, Consumer<Check> then) {
        CheckForm asked = new CheckForm(check);
        Asking.ask(within, title, asked.form, "check", asked::meant, then);
        if (asked.form.lookup(".text-field") instanceof TextField field) {
            field.requestFocus();
            field.selectAll();
        }
    }

    private Check meant() {
        Check made = typed.get();
        Check side = opposite.isSelected() && made.negatable() ? new Check.Not(made) : made;
        return stops.isSelected() ? new Check.Stopping(side) : side;
    }

    private static long number(String text, String what) {
        if (!text.strip().matches("[0-9]{1,15}")) {
            throw Problem.input("“" + text + "” is not " + what, null, "Write a whole number.");
        }
        return Long.parseLong(text.strip());
    }

    /** The fields of each kind; gives what makes the check that is typed. */
    private final class Fields implements Check.Visitor<Supplier<Check>> {
        private int fields;

        private TextField field(String key, String value, String prompt) {
            TextField field = Form.field(fields++ == 0 ? "ask-name" : "check-field-" + fields, value, prompt);
            form.row(key, field);
            return field;
        }

        private <T extends Choice> ComboBox<String> choice(T[] all, T now) {
            ComboBox<String> box = new ComboBox<>();
            Arrays.stream(all).map(Choice::title).forEach(box.getItems()::add);
            box.setValue(now.title());
            box.setId("check-choice");
            form.row("", box);
            return box;
        }

        private <T extends Choice> T chosen(T[] all, ComboBox<String> box) {
            return all[box.getSelectionModel().getSelectedIndex()];
        }

        @Override
        public Supplier<Check> valid(Check.Valid check) {
            form.note("The body, the header blocks that the contract names, and a fault's detail.");
            return () -> check;
        }

        @Override
        public Supplier<Check> noFault(Check.NoFault check) {
            form.note("An answer that is no fault, with a status of success.");
            return () -> check;
        }

        @Override
        public Supplier<Check> fault(Check.FaultIs check) {
            TextField name = field("fault", check.name(), "the name of its detail or its code; empty for any");
            return () -> new Check.FaultIs(name.getText().strip());
        }

        @Override
        public Supplier<Check> value(Check.Value check) {
            TextField expected = field("should be", check.expected(), "a value, with expressions in braces");
            TextField path = field("at", check.path(), "the path, as XPath");
            TextField tolerance = field("may be off by", check.tolerance(), "nothing; or 0.01, or PT5M");
            return () -> new Check.Value(
                    Asking.needed(path.getText(), "The path"),
                    expected.getText(),
                    tolerance.getText().strip());
        }

        @Override
        public Supplier<Check> condition(Check.Condition check) {
            TextField xpath = field("must be true", check.xpath(), "an XPath");
            return () -> new Check.Condition(Asking.needed(xpath.getText(), "The condition"));
        }

        @Override
        public Supplier<Check> within(Check.Within check) {
            TextField millis = field("milliseconds", String.valueOf(check.millis()), "");
            return () -> new Check.Within(number(millis.getText(), "a whole number of milliseconds"));
        }

        @Override
        public Supplier<Check> text(Check.MessageText check) {
            ComboBox<String> match = choice(Check.Match.values(), check.match());
            TextField wanted = field("text", check.wanted(), "a text or a regular expression");
            return () -> new Check.MessageText(
                    chosen(Check.Match.values(), match), Asking.needed(wanted.getText(), "The text"));
        }

        @Override
        public Supplier<Check> header(Check.HeaderIs check) {
            TextField name = field("header", check.name(), "Content-Type");
            ComboBox<String> match = choice(Check.Match.values(), check.match());
            TextField wanted = field("value", check.wanted(), "");
            return () -> new Check.HeaderIs(
                    Asking.needed(name.getText(), "The header's name"),
                    chosen(Check.Match.values(), match),
                    wanted.getText());
        }

        @Override
        public Supplier<Check> status(Check.StatusIs check) {
            TextField wanted = field("status", check.wanted(), "200, 2xx or 200-204");
            return () -> {
                Check.StatusIs made = new Check.StatusIs(Asking.needed(wanted.getText(), "The status"));
                // says so when that is none
                made.allows(200);
                return made;
            };
        }

        @Override
        public Supplier<Check> size(Check.SizeAtMost check) {
            TextField bytes = field("bytes", String.valueOf(check.bytes()), "");
            return () -> new Check.SizeAtMost(number(bytes.getText(), "a whole number of bytes"));
        }

        @Override
        public Supplier<Check> baseline(Check.SameAsBaseline check) {
            form.note("What the baseline of the case says, in whatever order and white space. "
                    + "Parts are left out of it by pointing at them in the answer.");
            return () -> check;
        }

        @Override
        public Supplier<Check> present(Check.Present check) {
            TextField path = field("path", check.path(), "of an element or an attribute");
            return () -> new Check.Present(Asking.needed(path.getText(), "The path"));
        }

        @Override
        public Supplier<Check> count(Check.Count check) {
            TextField path = field("path", check.path(), "of the elements");
            TextField from = field("at least", String.valueOf(check.from()), "0");
            TextField to =
                    field("at most", check.to() == Long.MAX_VALUE ? "" : String.valueOf(check.to()), "any number");
            return () -> {
                long low = from.getText().isBlank() ? 0 : number(from.getText(), "a number of elements");
                long high = to.getText().isBlank() ? Long.MAX_VALUE : number(to.getText(), "a number of elements");
                if (low > high) {
                    throw Problem.input("No number is at least " + low + " and at most " + high, null, null);
                }
                return new Check.Count(Asking.needed(path.getText(), "The path"), low, high);
            };
        }

        @Override
        public Supplier<Check> each(Check.Each check) {
            TextField path = field(check.all() ? "every" : "some", check.path(), "the path of the elements");
            TextField holds = field("must meet", check.holds(), "an XPath from the element, such as . > 0");
            return () -> new Check.Each(
                    Asking.needed(path.getText(), "The path"),
                    check.all(),
                    Asking.needed(holds.getText(), "The condition"));
        }

        @Override
        public Supplier<Check> items(Check.Items check) {
            TextField path = field("values of", check.path(), "the path of the elements");
            TextField wanted = field("should be", String.join(" | ", check.wanted()), "one | another | a third");
            CheckBox order = new CheckBox("in this order");
            order.setSelected(check.inOrder());
            order.setId("check-order");
            form.row("", order);
            return () -> {
                List<String> all = new ArrayList<>();
                if (!wanted.getText().isBlank()) {
                    Arrays.stream(wanted.getText().split("\\|", -1))
                            .map(String::strip)
                            .forEach(all::add);
                }
                return new Check.Items(Asking.needed(path.getText(), "The path"), all, order.isSelected());
            };
        }

        @Override
        public Supplier<Check> partCount(Check.PartCount check) {
            TextField count = field("parts", String.valueOf(check.count()), "beside the message");
            return () -> new Check.PartCount((int) Math.min(10_000, number(count.getText(), "a number of parts")));
        }

        @Override
        public Supplier<Check> part(Check.PartIs check) {
            TextField part = field("part", check.part(), "its Content-ID, or its number");
            ComboBox<String> fact = choice(Check.PartIs.Fact.values(), check.fact());
            TextField wanted = field("should be", check.wanted(), "image/png, 2048, or a hash in hexadecimal");
            return () -> new Check.PartIs(
                    Asking.needed(part.getText(), "The part"),
                    chosen(Check.PartIs.Fact.values(), fact),
                    Asking.needed(wanted.getText(), "What it should be"));
        }

        @Override
        public Supplier<Check> secured(Check.Secured check) {
            form.note("Signed, or encrypted for us, as the security profile checks it.");
            return () -> check;
        }

        @Override
        public Supplier<Check> not(Check.Not check) {
            return check.of().accept(this);
        }

        @Override
        public Supplier<Check> stopping(Check.Stopping check) {
            return check.of().accept(this);
        }
    }
}
