package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.EnvironmentsModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.expression.Variable;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Environment;
import dev.mockbell.project.Environments.Kind;
import dev.mockbell.project.Environments.Row;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.DoubleBinding;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** All environments beside each other: what each says of values, addresses and security profiles, and where they differ. */
final class EnvironmentsBox extends VBox {
    private static final double WIDTH = 1_140;
    private static final double HIGH = 480;
    private static final double NAMES = 236;
    private static final double EACH = 210;

    /** In characters; about what a cell shows. */
    private static final int LONG = 28;

    private static final String NOBODY = "nobody";

    private final Node within;
    private final EnvironmentsModel model;
    private final List<String> fresh = new ArrayList<>();
    private final InvalidationListener changed = o -> refresh();
    /** The names of those that have a column, in their order. */
    private List<String> shown = List.of();

    private final ScrollPane scroll = new ScrollPane();
    private Map<String, String> sources = new HashMap<>();

    /** What a line of the table shows. */
    private sealed interface Line {
        /** What can be done to each environment. */
        record Tools() implements Line {}

        record Heading(Kind kind) implements Line {}

        /** @param texts what each environment says now */
        record One(Row row, String[] texts, BooleanProperty differs) implements Line {
            static One of(Row row) {
                return new One(
                        row,
                        row.cells().stream().map(c -> c.orElse("")).toArray(String[]::new),
                        new SimpleBooleanProperty(row.differs()));
            }

            void say(int at, String text) {
                texts[at] = text;
                List<Optional<String>> cells = new ArrayList<>();
                for (String each : texts) {
                    cells.add(Optional.of(each).filter(t -> !t.isEmpty()));
                }
                differs.set(new Row(row.kind(), row.name(), row.secret(), row.otherwise(), cells).differs());
            }
        }
    }

    private EnvironmentsBox(Node within, EnvironmentsModel model) {
        super(10);
        this.within = within;
        this.model = model;
        setId("environments-box");
        scroll.setFitToHeight(true);
        scroll.setFitToWidth(true);
        scroll.setPrefHeight(HIGH);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        var add = Parts.button(
                "Add an environment…", "An empty one", () -> name("New environment", "", n -> model.add("", n)));
        add.setId("environment-add");
        var value = Parts.link("Add a value…", "A variable that each environment may have a value for", this::addValue);
        value.setId("environment-value");
        HBox foot = new HBox(
                12,
                value,
                Parts.text("An empty cell leaves it to the project, or to the contract. ", "third", "table-text"),
                Parts.spring(),
                Parts.button("Done", "Esc", () -> Overlay.close(within), "primary"));
        foot.setAlignment(Pos.CENTER_LEFT);
        HBox head = new HBox(Parts.text("Environments", "strong"), Parts.spring(), add);
        head.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(head, scroll, foot);
        show();
        model.sources(found -> {
            sources = found;
            show();
        });
    }

    /** Over the window that shows {@code within}. */
    static void show(Node within, EnvironmentsModel model) {
        new EnvironmentsBox(within, model).open();
    }

    private void open() {
        model.projectProperty().addListener(changed);
        Overlay.show(within, this, WIDTH, () -> model.projectProperty().removeListener(changed));
        refresh();
    }

    /** Undo and other programs may put other environments where these stand. */
    private void refresh() {
        if (!model.all().stream().map(Environment::name).toList().equals(shown)) {
            show();
        }
    }

    private void show() {
        List<Environment> all = model.all();
        shown = all.stream().map(Environment::name).toList();
        if (all.isEmpty()) {
            scroll.setContent(Parts.empty("There is none: calls go where the contracts say.\n"
                    + "Add one for each place that the services are at."));
            return;
        }
        Grid<Line> grid = new Grid<>(30);
        grid.setId("environments-table");
        grid.flat()
                .column("", NAMES, this::name)
                .centred("≠", 34, EnvironmentsBox::differs)
                .grouped(l -> l instanceof Line.Heading, this::heading);
        for (int i = 0; i < all.size(); i++) {
            int at = i;
            grid.column(all.get(i).name(), EACH, line -> cell(line, at));
        }
        grid.items().setAll(lines());
        grid.setMinWidth(NAMES + 34 + EACH * all.size() + 24);
        scroll.setContent(grid);
    }

    private Node heading(Line line) {
        Label heading = Parts.text(((Line.Heading) line).kind().title(), "strong", "table-text", "second");
        stays(heading);
        return heading;
    }

    private List<Line> lines() {
        List<Line> lines = new ArrayList<>();
        lines.add(new Line.Tools());
        List<Row> rows = new ArrayList<>();
        List<Row> known = model.rows();
        fresh.removeIf(name ->
                known.stream().anyMatch(r -> r.kind() == Kind.VALUE && r.name().equals(name)));
        for (String name : fresh) {
            rows.add(new Row(
                    Kind.VALUE,
                    name,
                    false,
                    "",
                    model.all().stream().map(e -> Optional.<String>empty()).toList()));
        }
        rows.addAll(known);
        for (Kind kind : Kind.values()) {
            List<Row> of = rows.stream().filter(r -> r.kind() == kind).toList();
            if (!of.isEmpty()) {
                lines.add(new Line.Heading(kind));
                of.forEach(r -> lines.add(Line.One.of(r)));
            }
        }
        return lines;
    }

    private Node name(Line line) {
        if (!(line instanceof Line.One one)) {
            return Parts.text("");
        }
        Label label =
                Parts.text(one.row().name(), one.row().kind() == Kind.VALUE ? "mono" : "table-text", "table-text");
        Parts.tip(label, one.row().name());
        return staying(label);
    }

    /** What says whose row it is stays in sight when the table is scrolled to the side. */
    private Node staying(Label label) {
        StackPane ground = new StackPane(label);
        ground.getStyleClass().add("staying");
        StackPane.setAlignment(label, Pos.CENTER_LEFT);
        ground.setMinWidth(NAMES);
        stays(ground);
        return ground;
    }

    private void stays(Node node) {
        node.translateXProperty().bind(scrolled());
        // above the cells of its row that it comes to lie over
        node.parentProperty().addListener((o, was, now) -> {
            if (now != null) {
                now.setViewOrder(-1);
            }
        });
    }

    private DoubleBinding scrolled() {
        return Bindings.createDoubleBinding(
                () -> {
                    double wide = scroll.getContent() instanceof Region content ? content.getWidth() : 0;
                    return Math.max(0, wide - scroll.getViewportBounds().getWidth()) * scroll.getHvalue();
                },
                scroll.hvalueProperty(),
                scroll.viewportBoundsProperty());
    }

    private static Node differs(Line line) {
        if (!(line instanceof Line.One one)) {
            return Parts.text("");
        }
        Label mark = Parts.text("≠", "strong");
        mark.visibleProperty().bind(one.differs());
        Parts.tip(mark, "Not the same in all");
        return mark;
    }

    private Node cell(Line line, int at) {
        Environment environment = model.all().get(at);
        if (line instanceof Line.Tools) {
            return tools(environment);
        }
        Line.One one = (Line.One) line;
        String id = "environment-" + at + "-"
                + (one.row().kind() == Kind.VALUE ? "" : one.row().kind().name().toLowerCase(Locale.ROOT) + "-")
                + one.row().name().replace('/', '-');
        if (one.row().secret()) {
            String from = sources.get(one.row().name());
            return from == null
                    ? Parts.marked(Mark.FAULT, "no value here", "table-text")
                    : Parts.text(from, "third", "table-text");
        }
        if (one.row().kind() == Kind.SECURITY) {
            return profile(one, at, id);
        }
        TextField field = Form.field(id, one.texts()[at], one.row().otherwise());
        Tooltip whole = new Tooltip();
        whole.textProperty().bind(field.textProperty());
        // a field shows the start of what is long
        field.tooltipProperty()
                .bind(Bindings.when(field.textProperty().length().greaterThan(LONG))
                        .then(whole)
                        .otherwise((Tooltip) null));
        Form.onEnd(field, () -> say(one, at, field.getText().strip()));
        return field;
    }

    private Node profile(Line.One one, int at, String id) {
        String now = one.texts()[at];
        Button choose = Parts.link((now.isEmpty() ? NOBODY : now) + " ▾", "By which profile it is called", () -> {});
        choose.setId(id);
        ContextMenu menu = new ContextMenu();
        List<String> all = new ArrayList<>(List.of(""));
        all.addAll(model.profiles());
        for (String profile : all) {
            MenuItem item = new MenuItem(profile.isEmpty() ? NOBODY : profile);
            item.setMnemonicParsing(false);
            item.setOnAction(e -> {
                say(one, at, profile);
                choose.setText(item.getText() + " ▾");
            });
            menu.getItems().add(item);
        }
        choose.setOnAction(e -> menu.show(choose, Side.BOTTOM, 0, 2));
        return choose;
    }

    private void say(Line.One one, int at, String text) {
        one.say(at, text);
        model.say(model.all().get(at).name(), one.row(), text);
    }

    private Node tools(Environment environment) {
        String name = environment.name();
        boolean used = model.inUse().equals(name);
        Button open = Parts.link(used ? "in use ▾" : "not in use ▾", "Use, copy, rename, delete it", () -> {});
        open.setId("environment-menu-" + name);
        ContextMenu menu = new ContextMenu();
        open.setOnAction(e -> menu.show(open, Side.BOTTOM, 0, 2));
        menu.getItems()
                .addAll(
                        item("Use it", () -> model.use(name)),
                        item("Copy…", () -> name("A copy of " + name, name + " 2", n -> model.add(name, n))),
                        item("Rename…", () -> name("Rename " + name, name, n -> model.rename(name, n))),
                        live(environment),
                        new SeparatorMenuItem(),
                        item("Delete", () -> model.delete(name)));
        HBox box = new HBox(8, open);
        box.setAlignment(Pos.CENTER_LEFT);
        if (environment.live()) {
            box.getChildren().add(Parts.marked(Mark.FAULT, "live", "table-text"));
        }
        return box;
    }

    private MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> {
            action.run();
            show();
        });
        return item;
    }

    private MenuItem live(Environment environment) {
        CheckMenuItem live = new CheckMenuItem("It is live: warn of it");
        live.setSelected(environment.live());
        live.setOnAction(e -> {
            model.live(environment.name(), live.isSelected());
            show();
        });
        return live;
    }

    private void name(String title, String text, Consumer<String> then) {
        ask(title, text, "such as Test or Live", then);
    }

    private void addValue() {
        ask("New value", "", "letters, digits, -, _ and .", typed -> {
            String name = typed.strip();
            if (!Variable.isName(name)) {
                throw Problem.input("“" + name + "” is no name of a variable", null, null);
            }
            fresh.add(name);
        });
    }

    /** Asks for a name and comes back to the table; {@code then} may say that it cannot be. */
    private void ask(String title, String text, String prompt, Consumer<String> then) {
        Form form = new Form();
        TextField field = Form.field("environment-name", text, prompt);
        form.row("Name", field);
        Asking.ask(
                within,
                title,
                form,
                "environment",
                () -> {
                    then.accept(field.getText());
                    return field.getText();
                },
                name -> {
                    show();
                    open();
                });
    }
}
