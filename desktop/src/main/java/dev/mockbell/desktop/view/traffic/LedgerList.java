package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.Condition;
import dev.mockbell.ledger.Condition.Field;
import dev.mockbell.ledger.Figure;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.ledger.Order;
import dev.mockbell.suite.CopyOut;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.beans.InvalidationListener;
import javafx.geometry.Orientation;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.input.KeyCode;

/** The lines of the ledger: ordered by a click on a heading, with columns as chosen, and a menu that asks by what is pointed at. */
final class LedgerList {
    /** What is more than that down has the next page read. */
    private static final double NEARLY = 0.9;

    private static final String HIDDEN = "ledger.hidden";

    private final TrafficModel model;
    private final Grid<Listing> grid = new Grid<>(26);
    private final Set<String> hidden = new TreeSet<>();
    private final List<Column> columns = List.of(
            new Column(
                    "Number", 64, Order.Column.NUMBER, true, l -> Parts.text(String.valueOf(l.id()), "mono", "third")),
            new Column("Time", 118, Order.Column.TIME, false, LedgerList::time),
            new Column("Way", 92, Order.Column.WAY, false, l -> Parts.text(way(l.way()), "table-text")),
            new Column("Operation", 140, Order.Column.OPERATION, false, LedgerList::operation),
            new Column(
                    "Endpoint",
                    0,
                    Order.Column.ENDPOINT,
                    false,
                    l -> quiet(l.endpoint().replaceFirst("^https?://", ""))),
            new Column("Status", 60, Order.Column.STATUS, true, LedgerList::status),
            new Column("ms", 64, Order.Column.TOOK, true, l -> Parts.text(Numbers.whole(l.millis()), "mono")),
            new Column("Sent", 76, Order.Column.SENT, true, l -> Parts.text(Numbers.bytes(l.sent()), "table-text")),
            new Column(
                    "Received",
                    84,
                    Order.Column.RECEIVED,
                    true,
                    l -> Parts.text(Numbers.bytes(l.received()), "table-text")),
            new Column("Result", 170, Order.Column.RESULT, false, LedgerList::result),
            new Column(
                    "Caller",
                    110,
                    Order.Column.CALLER,
                    false,
                    l -> quiet(l.ties().caller())),
            new Column("From", 140, Order.Column.FROM, false, l -> quiet(l.origin())));
    private Consumer<Listing> open = l -> {};
    private Consumer<Listing> belongs = l -> {};
    private boolean following;

    /** @param width 0 for the room that is left */
    private record Column(String title, double width, Order.Column by, boolean number, Function<Listing, Node> cell) {}

    LedgerList(TrafficModel model) {
        this.model = model;
        hidden.addAll(List.of(model.habits().get(HIDDEN, "Number Caller").split(" ")));
        grid.setId("ledger");
        grid.setItems(model.listings());
        grid.list().getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && !following) {
                model.select(now.id());
            }
        });
        grid.list().setOnKeyPressed(e -> {
            Listing now = grid.list().getSelectionModel().getSelectedItem();
            if (now != null && e.getCode() == KeyCode.ENTER) {
                open.accept(now);
            } else if (now != null && e.getCode() == KeyCode.P && !e.isShortcutDown() && !e.isAltDown()) {
                pin(!now.pinned());
            } else if (e.getCode() == KeyCode.C && !e.isShortcutDown() && !e.isAltDown()) {
                compare();
            }
        });
        grid.list().setOnContextMenuRequested(e -> {
            Listing now = grid.list().getSelectionModel().getSelectedItem();
            if (now != null) {
                menu(now).show(grid.list(), e.getScreenX(), e.getScreenY());
            }
            e.consume();
        });
        // the list makes its bar when it is first laid out
        grid.list().skinProperty().addListener((InvalidationListener)
                o -> javafx.application.Platform.runLater(this::bar));
        model.orderProperty().addListener((InvalidationListener) o -> columns());
        columns();
    }

    Grid<Listing> node() {
        return grid;
    }

    void onOpen(Consumer<Listing> action) {
        open = action;
    }

    /** Goes to what a line belongs to. */
    void onBelongs(Consumer<Listing> action) {
        belongs = action;
    }

    /** The lines that are chosen, or all when there are not several. */
    List<Listing> chosenOrAll() {
        List<Listing> chosen = List.copyOf(grid.list().getSelectionModel().getSelectedItems());
        return chosen.size() > 1 ? chosen : List.copyOf(model.listings());
    }

    private void bar() {
        for (Node n : grid.list().lookupAll(".scroll-bar")) {
            if (n instanceof ScrollBar s && s.getOrientation() == Orientation.VERTICAL) {
                s.valueProperty().addListener((o, was, now) -> {
                    if (now.doubleValue() > NEARLY * s.getMax()) {
                        model.more();
                    }
                });
            }
        }
    }

    private void columns() {
        grid.clearColumns();
        Order now = model.orderProperty().get();
        for (Column column : columns) {
            if (hidden.contains(column.title())) {
                continue;
            }
            boolean by = column.by() == now.by() && !now.equals(Order.NEWEST);
            String title = column.title() + (by ? now.descending() ? " ↓" : " ↑" : "");
            if (column.width() == 0) {
                grid.growing(title, column.cell()::apply);
            } else if (column.number()) {
                grid.number(title, column.width(), column.cell()::apply);
            } else {
                grid.column(title, column.width(), column.cell()::apply);
            }
            grid.heading(() -> order(column), this::headMenu);
        }
        grid.refresh();
    }

    /** The largest first, then the smallest, then as they came; texts the other way round. */
    private void order(Column column) {
        Order now = model.orderProperty().get();
        boolean first = Set.of(Order.Column.OPERATION, Order.Column.ENDPOINT, Order.Column.FROM, Order.Column.CALLER)
                .contains(column.by());
        Order begin = new Order(column.by(), !first);
        Order other = new Order(column.by(), first);
        model.orderProperty().set(now.equals(begin) ? other : now.equals(other) ? Order.NEWEST : begin);
    }

    /** Hides a column, or shows it again; so it stays, also in the next window. */
    void turn(String title) {
        if (!hidden.remove(title)) {
            hidden.add(title);
        }
        model.habits().set(HIDDEN, String.join(" ", hidden));
        columns();
    }

    /** The titles of those that are not shown. */
    Set<String> hidden() {
        return Set.copyOf(hidden);
    }

    private void headMenu(Node at) {
        ContextMenu menu = new ContextMenu();
        for (Column column : columns) {
            CheckMenuItem item = new CheckMenuItem(column.title());
            item.setSelected(!hidden.contains(column.title()));
            item.setOnAction(e -> turn(column.title()));
            menu.getItems().add(item);
        }
        menu.show(at, Side.BOTTOM, 0, 0);
    }

    private static Label time(Listing l) {
        Label label = Parts.text((l.pinned() ? "● " : "") + Moments.toTheMillisecond(l.started()), "mono", "third");
        if (l.pinned()) {
            Parts.tip(label, "Pinned: it stays when others are let go");
        }
        return label;
    }

    static String way(Way way) {
        return switch (way) {
            case CALLED -> "→ called";
            case ANSWERED -> "← answered";
            case TAPPED -> "↔ tapped";
        };
    }

    private static Label operation(Listing l) {
        return Parts.text(l.operation().isEmpty() ? "–" : l.operation(), "strong", "table-text");
    }

    private static Label status(Listing l) {
        return Parts.text(
                l.status() == 0 ? "–" : String.valueOf(l.status()),
                "mono",
                l.outcome() == Outcome.FINE ? "fine" : l.outcome() == Outcome.FAULT ? "fault" : "failed");
    }

    private static Label result(Listing l) {
        Label label = Parts.marked(Numbers.mark(l.outcome()), l.note().isEmpty() ? "fine" : l.note(), "table-text");
        Parts.tip(label, l.note());
        return label;
    }

    private static Label quiet(String words) {
        Label label = Parts.text(words, "second", "table-text");
        label.setMinWidth(0);
        return label;
    }

    /** What can be asked by a line, and done with it. */
    private ContextMenu menu(Listing l) {
        ContextMenu menu = new ContextMenu();
        Menu only = new Menu("Only this");
        Menu not = new Menu("Not this");
        for (Condition condition : conditions(l)) {
            only.getItems().add(item(words(condition), () -> ask(condition, false)));
            not.getItems().add(item(words(condition), () -> ask(condition, true)));
        }
        menu.getItems().addAll(only, not, new SeparatorMenuItem());
        menu.getItems().add(item("Edit and send again   (Enter)", () -> open.accept(l)));
        List<Listing> chosen = List.copyOf(grid.list().getSelectionModel().getSelectedItems());
        if (chosen.size() == 2) {
            menu.getItems()
                    .add(item(
                            "Compare the two   (C)",
                            () -> model.compare(
                                    chosen.get(0).id(), chosen.get(1).id())));
        }
        if (!l.ties().of().isEmpty()) {
            menu.getItems().add(item("Go to where it belongs", () -> belongs.accept(l)));
        }
        menu.getItems().add(item(l.pinned() ? "Unpin   (P)" : "Pin, so that it stays   (P)", () -> pin(!l.pinned())));
        Menu copy = new Menu("Copy");
        copy.getItems()
                .addAll(
                        item("The line", () -> Copying.text(line(l))),
                        item(
                                "The request as a curl command",
                                () -> model.copyAs(CopyOut.Form.CURL, l.id(), Copying::text)),
                        item("The request as raw HTTP", () -> model.copyAs(CopyOut.Form.RAW, l.id(), Copying::text)),
                        item(
                                "The request as a Java program",
                                () -> model.copyAs(CopyOut.Form.JAVA, l.id(), Copying::text)));
        menu.getItems().add(copy);
        return menu;
    }

    private static MenuItem item(String words, Runnable does) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> does.run());
        return item;
    }

    private static String words(Condition condition) {
        return condition.kind() + " " + condition.value();
    }

    /** Holds the two that are chosen against each other. */
    private void compare() {
        List<Listing> chosen = List.copyOf(grid.list().getSelectionModel().getSelectedItems());
        if (chosen.size() == 2) {
            model.compare(chosen.get(0).id(), chosen.get(1).id());
        }
    }

    private void pin(boolean on) {
        model.pin(
                grid.list().getSelectionModel().getSelectedItems().stream()
                        .map(Listing::id)
                        .toList(),
                on);
    }

    private static List<Condition> conditions(Listing l) {
        List<Condition> all = new ArrayList<>();
        named(all, Field.OPERATION, l.operation());
        all.add(new Condition.Between(Figure.STATUS, l.status(), l.status()));
        all.add(new Condition.ByResult(l.outcome()));
        all.add(new Condition.ByWay(l.way()));
        named(all, Field.ENDPOINT, l.endpoint());
        named(all, Field.CALLER, l.ties().caller());
        named(all, Field.FROM, l.origin());
        named(all, Field.NOTE, l.note());
        named(all, Field.OF, l.ties().of());
        all.add(new Condition.Between(Figure.TOOK, l.nanos() / 1_000_000 * 1_000_000, Long.MAX_VALUE));
        return all;
    }

    private static void named(List<Condition> all, Field field, String value) {
        if (!value.isEmpty()) {
            all.add(new Condition.Named(field, value.replace("*", "\\*")));
        }
    }

    private void ask(Condition condition, boolean not) {
        model.filterProperty().set(model.filterProperty().get().and(new LedgerFilter.Term(condition, not)));
    }

    private static String line(Listing l) {
        return String.join(
                "\t",
                String.valueOf(l.id()),
                l.started().toString(),
                l.way().name().toLowerCase(java.util.Locale.ROOT),
                l.operation(),
                l.endpoint(),
                String.valueOf(l.status()),
                String.valueOf(l.nanos() / 1e6),
                l.note());
    }

    /** The list grows on its own; the exchange looked at stays the one looked at. */
    void reselect(Exchange now) {
        if (now == null) {
            return;
        }
        Listing chosen = grid.list().getSelectionModel().getSelectedItem();
        if (chosen != null && chosen.id() == now.id()
                || grid.list().getSelectionModel().getSelectedItems().size() > 1) {
            return;
        }
        following = true;
        grid.list().getSelectionModel().clearSelection();
        for (Listing l : model.listings()) {
            if (l.id() == now.id()) {
                grid.list().getSelectionModel().select(l);
                break;
            }
        }
        following = false;
    }
}
