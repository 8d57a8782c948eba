package dev.mockbell.desktop.view.load;

import dev.mockbell.choice.Choice;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.WorkersModel;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.load.Pauses;
import dev.mockbell.load.RowUse;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Names;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;

/** What is asked for a load plan in forms of their own. */
final class LoadForms {
    private static final double ROWS = 180;

    private LoadForms() {}

    /**
     * A number as people type it.
     *
     * @throws Problem when it is none, or less than 0
     */
    static double number(String typed, String what) {
        try {
            double number = Double.parseDouble(typed.strip().replace(',', '.'));
            if (Double.isFinite(number) && number >= 0) {
                return number;
            }
        } catch (NumberFormatException e) {
            throw none(typed, what, e);
        }
        throw none(typed, what, null);
    }

    private static Problem none(String typed, String what, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "“" + typed + "” is not a number",
                null,
                what + " is a number of 0 or more.",
                cause);
    }

    private static int whole(TextField field, String what) {
        return (int) Math.min(Integer.MAX_VALUE, Math.rint(number(field.getText(), what)));
    }

    /** The curve as a table. */
    static void points(Node within, LoadShape shape, Consumer<LoadShape> then) {
        Form form = new Form();
        form.note("A line for each point: seconds from the start, and "
                + (shape.kind() == LoadShape.Kind.ARRIVALS ? "arrivals a second" : "users at work")
                + " there. Between points it goes straight; two points at the same second are a jump. Cells of a spreadsheet can"
                + " be pasted.");
        TextArea rows = new TextArea(shape.points().stream()
                .map(p -> Numbers.plain(p.at()) + "\t" + Numbers.plain(p.level()))
                .collect(Collectors.joining("\n")));
        rows.setId("load-point-rows");
        rows.getStyleClass().add("mono");
        rows.setPrefHeight(ROWS);
        form.getChildren().add(rows);
        Asking.ask(within, "The curve", form, "load-points", () -> parsed(shape, rows.getText()), then);
    }

    private static LoadShape parsed(LoadShape shape, String text) {
        List<Point> points = new ArrayList<>();
        for (String line :
                text.lines().map(String::strip).filter(l -> !l.isEmpty()).toList()) {
            String[] cells = line.split("[\\t; ]+");
            if (cells.length != 2) {
                throw Problem.input(
                        "“" + line + "” is no point", null, "A point is two numbers: seconds, and the level there.");
            }
            points.add(new Point(number(cells[0], "The time"), number(cells[1], "The level")));
        }
        return shape.with(points);
    }

    /** How long is rested after each step. */
    static void pauses(Node within, LoadPlan plan, Consumer<LoadPlan> then) {
        Form form = new Form();
        ComboBox<String> kind =
                choice("load-pause-kind", Pauses.Kind.values(), plan.pauses().kind());
        form.row("Spread", kind);
        TextField low =
                Form.field("load-pause-low", String.valueOf(plan.pauses().low()), "0");
        TextField high =
                Form.field("load-pause-high", String.valueOf(plan.pauses().high()), "0");
        TextField seed = Form.field("load-seed", String.valueOf(plan.conduct().seed()), "1");
        form.row("Milliseconds", low);
        form.row("at most", high);
        form.note(
                "Fixed and exponential go by the first number, the mean of an exponential spread; uniform lies between both.");
        form.row("Seed", seed);
        form.note("With the same seed chance takes the same course.");
        Asking.ask(
                within,
                "Pause after each step",
                form,
                "load-pause",
                () -> {
                    Pauses.Kind of =
                            Pauses.Kind.values()[kind.getSelectionModel().getSelectedIndex()];
                    long least = whole(low, "A pause");
                    long most = whole(high, "A pause");
                    Pauses made = switch (of) {
                        case NONE -> Pauses.NONE;
                        case FIXED -> Pauses.fixed(least);
                        case UNIFORM -> Pauses.uniform(least, most);
                        case EXPONENTIAL -> Pauses.exponential(least);
                    };
                    return plan.with(made).with(plan.conduct().withSeed(whole(seed, "A seed")));
                },
                then);
    }

    private static <T extends Choice> ComboBox<String> choice(String id, T[] all, T now) {
        ComboBox<String> box = new ComboBox<>();
        for (T one : all) {
            box.getItems().add(one.title());
        }
        box.setValue(now.title());
        box.setId(id);
        return box;
    }

    /** What is not as usual, in few words. */
    static String words(LoadPlan plan) {
        Conduct c = plan.conduct();
        Conduct usual = Conduct.USUAL;
        List<String> words = new ArrayList<>();
        plan.rows()
                .ifPresent(r -> words.add(
                        "rows of " + r.file() + ", " + r.order().title().toLowerCase(Locale.ROOT)));
        if (!c.keepsConnections()) {
            words.add("a connection for each request");
        }
        if (c.mostConnections() != usual.mostConnections()) {
            words.add("at most " + c.mostConnections() + " connections");
        }
        if (c.warmUpSeconds() > 0) {
            words.add(c.warmUpSeconds() + " s of warm-up");
        }
        if (c.validatedPercent() > 0) {
            words.add(Numbers.plain(c.validatedPercent()) + " % validated");
        }
        words.add("no answer within " + c.timeoutMillis() / 1_000.0 + " s fails");
        return String.join("; ", words);
    }

    /** Rows, connections, warm-up, validation. */
    static void conduct(Node within, LoadPlan plan, Consumer<LoadPlan> then) {
        Conduct c = plan.conduct();
        Form form = new Form();
        form.heading("Rows whose columns are variables");
        TextField file = Form.field(
                "load-rows",
                plan.rows().map(RowUse::file).orElse(""),
                "none; or a CSV file such as suites/parties.csv");
        form.row("File", file);
        ComboBox<String> order = choice(
                "load-rows-order",
                RowUse.Order.values(),
                plan.rows().map(RowUse::order).orElse(RowUse.Order.IN_ORDER));
        CheckBox perUser = new CheckBox("each user keeps a row of his own");
        perUser.setSelected(plan.rows().filter(RowUse::perUser).isPresent());
        form.row("Taken", order, perUser);
        form.heading("Connections");
        CheckBox kept = new CheckBox("are used again");
        kept.setId("load-connections-kept");
        kept.setSelected(c.keepsConnections());
        CheckBox resumes = new CheckBox("a new one by TLS may take up an earlier session");
        resumes.setSelected(c.resumesTls());
        form.row("", kept);
        form.row("", resumes);
        TextField most = Form.field("load-connections", String.valueOf(c.mostConnections()), "5000");
        form.row("At most", most);
        TextField timeout = Form.field("load-timeout", String.valueOf(c.timeoutMillis()), "10000");
        form.row("Time-out in ms", timeout);
        form.heading("What counts");
        TextField warmUp = Form.field("load-warm-up", String.valueOf(c.warmUpSeconds()), "0");
        form.row("Warm-up in s", warmUp);
        TextField validated = Form.field("load-validated", Numbers.plain(c.validatedPercent()), "0");
        form.row("Validated in %", validated);
        form.note(
                "During the warm-up the target gets the first level, and nothing is measured. Of good answers that share is held"
                        + " against the contract.");
        Asking.ask(
                within,
                "Rows, connections, warm-up",
                form,
                "load-conduct",
                () -> {
                    double percent = number(validated.getText(), "A share");
                    if (percent > 100) {
                        throw Problem.input("A share is at most 100 %", null, null);
                    }
                    Optional<RowUse> rows = Optional.of(file.getText().strip())
                            .filter(f -> !f.isEmpty())
                            .map(f -> new RowUse(
                                    f,
                                    RowUse.Order.values()[
                                            order.getSelectionModel().getSelectedIndex()],
                                    perUser.isSelected()));
                    return plan.withRows(rows)
                            .with(c.withTimeout(Math.max(1, whole(timeout, "A time")))
                                    .withConnections(kept.isSelected(), Math.max(1, whole(most, "A number")))
                                    .withTlsResumed(resumes.isSelected())
                                    .withWarmUp(whole(warmUp, "A time"))
                                    .withValidated(percent));
                },
                then);
    }

    /** A bound, of all or of one step. */
    static void limit(Node within, LoadModel model, Limit.Measure measure, Consumer<Limit> then) {
        Form form = new Form();
        TextField bound = Form.field("ask-bound", measure == Limit.Measure.HELD ? "95" : "300", "");
        form.row(measure.title(), bound);
        ComboBox<String> of = new ComboBox<>();
        of.getItems().add("all together");
        of.getItems().addAll(model.timed());
        of.setValue("all together");
        of.setId("ask-of");
        form.row("Of", of);
        CheckBox stops = new CheckBox("ends the run when it is broken for more than");
        stops.setId("ask-stops");
        TextField tolerance = Form.field("ask-tolerance", "5", "0");
        tolerance.setMaxWidth(60);
        form.row("", stops, tolerance);
        form.note("In seconds on end. A limit that does not end the run is judged when it is over.");
        Asking.ask(
                within,
                "A limit",
                form,
                "ask-limit",
                () -> new Limit(
                        of.getSelectionModel().getSelectedIndex() <= 0 ? "" : of.getValue(),
                        measure,
                        number(bound.getText(), "A bound"),
                        stops.isSelected(),
                        stops.isSelected() ? whole(tolerance, "A time") : 0),
                then);
    }

    /**
     * What an invitation for other machines needs.
     *
     * @param host the address of this machine by which they reach it
     */
    record Inviting(Path file, String host, int days) {}

    /** An invitation for other machines. */
    static void invite(Node within, WorkersModel workers, String project, Consumer<Inviting> then) {
        Form form = new Form();
        TextField host = Form.field("invite-host", workers.meeting().host(), "127.0.0.1");
        TextField days = Form.field("invite-days", String.valueOf(Invitation.USUAL_DAYS), "");
        TextField file = Form.field(
                "invite-file",
                Path.of(System.getProperty("user.home"), "mockbell-worker-" + Names.of(project) + ".json")
                        .toString(),
                "");
        form.row("This machine's address", host);
        form.note(
                "By which the others reach it. With 127.0.0.1 only workers on this machine can join; any other address"
                        + " is listened on as well.");
        form.row("Good for, in days", days);
        form.row("File", file);
        form.note("Whoever has the file may join until then: take it to the other machines yourself, and there give"
                + " “mockbell worker --invitation FILE --host ITS-ADDRESS”.");
        Asking.ask(
                within,
                "Invite other machines",
                form,
                "load-invite",
                () -> new Inviting(
                        Path.of(Asking.needed(file.getText(), "The file")),
                        Asking.needed(host.getText(), "The address"),
                        Math.max(1, Math.min(Invitation.MOST_DAYS, whole(days, "The time")))),
                then);
    }
}
