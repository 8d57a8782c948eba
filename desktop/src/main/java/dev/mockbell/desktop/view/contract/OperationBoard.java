package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Binding;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Service;
import dev.mockbell.contract.Transport;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.KeptContract;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The operations of all contracts, a dense row each, grouped by service. */
final class OperationBoard extends VBox {
    private sealed interface Row {
        /** A service, or a contract without one. */
        record Heading(KeptContract contract, String service) implements Row {}

        /** An operation; one that cannot be called is only listed. */
        record OperationRow(OperationPlace place, boolean callable) implements Row {}
    }

    private final Models models;
    private final Desk desk;
    private final Grid<Row> grid = new Grid<>(26);
    private final ObservableList<Row> rows = FXCollections.observableArrayList();
    private final Consumer<OperationPlace> chosen;
    private final Consumer<OperationPlace> opened;
    private final Consumer<KeptContract> manage;
    private Optional<Comparator<Row>> order = Optional.empty();
    private String filter = "";
    private boolean choosing;

    /**
     * @param chosen hears of the operation that is selected
     * @param opened hears of one that is to be called
     * @param manage is asked for what can be done with a contract as a whole
     */
    OperationBoard(
            Models models,
            Consumer<OperationPlace> chosen,
            Consumer<OperationPlace> opened,
            Consumer<KeptContract> manage) {
        this.models = models;
        this.desk = models.desk();
        this.chosen = chosen;
        this.opened = opened;
        this.manage = manage;
        grid.column("Operation", 178, r -> operation((Row.OperationRow) r))
                .growing("Takes → gives", r -> takesGives(place(r)))
                .yielding("Bindings", 88, 560, r -> bindings(place(r)))
                .number(
                        "Cases",
                        50,
                        r -> Parts.text(String.valueOf(cases(place(r)).size()), "table-text"))
                .number("Checks", 56, r -> Parts.text(String.valueOf(checks(place(r))), "table-text"))
                .yielding("Mock", 78, 640, r -> isCallable(r) ? answers(place(r)) : Parts.text("", "table-text"))
                .column("Last result", 108, r -> isCallable(r) ? last(place(r)) : listed(place(r)))
                .grouped(r -> r instanceof Row.Heading, r -> heading((Row.Heading) r));
        grid.sorted("Operation", byName())
                .sorted("Cases", Comparator.comparing(r -> -cases(place(r)).size()))
                .sorted("Checks", Comparator.comparing(r -> -checks(place(r))))
                .sorted("Last result", Comparator.comparing(r -> lastWords(place(r))))
                .onSort(by -> {
                    order = by;
                    show(filter);
                });
        grid.setId("board");
        grid.setItems(rows);
        VBox.setVgrow(grid, javafx.scene.layout.Priority.ALWAYS);
        getChildren().add(grid);
        listen();
    }

    private static Comparator<Row> byName() {
        return Comparator.comparing(r -> place(r).key().toLowerCase(Locale.ROOT));
    }

    private void listen() {
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now instanceof Row.OperationRow row && !choosing) {
                chosen.accept(row.place());
            }
        });
        grid.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                open();
            }
        });
        grid.list().setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                open();
            }
        });
    }

    private void open() {
        if (grid.list().getSelectionModel().getSelectedItem() instanceof Row.OperationRow row && row.callable()) {
            opened.accept(row.place());
        }
    }

    void refresh() {
        grid.refresh();
    }

    void focus() {
        grid.list().requestFocus();
    }

    private static OperationPlace place(Row row) {
        return ((Row.OperationRow) row).place();
    }

    private static boolean isCallable(Row row) {
        return ((Row.OperationRow) row).callable();
    }

    /** Shows the operations that have the text in their name, their contract's or what they take and give. */
    void show(String text) {
        filter = text;
        String wanted = text.toLowerCase(Locale.ROOT).strip();
        Map<Row.Heading, List<Row>> groups = new LinkedHashMap<>();
        for (KeptContract contract : desk.project().contracts()) {
            contract.contract()
                    .operations()
                    .forEach((key, ports) -> add(groups, new OperationPlace(contract, key, ports), true, wanted));
            contract.contract().listedOnly().forEach((key, ports) -> {
                String name = key.substring(0, key.lastIndexOf(' '));
                add(groups, new OperationPlace(contract, name, ports), false, wanted);
            });
            if (contract.contract().ports().isEmpty() && wanted.isEmpty()) {
                groups.put(new Row.Heading(contract, ""), new ArrayList<>());
            }
        }
        List<Row> shown = new ArrayList<>();
        groups.forEach((heading, operations) -> {
            order.ifPresent(operations::sort);
            shown.add(heading);
            shown.addAll(operations);
        });
        choosing = true;
        rows.setAll(shown);
        choosing = false;
        grid.setPlaceholder(Parts.empty("No operation has “" + text + "” in its name."));
    }

    private static void add(Map<Row.Heading, List<Row>> groups, OperationPlace place, boolean callable, String wanted) {
        boolean match = wanted.isEmpty()
                || place.key().toLowerCase(Locale.ROOT).contains(wanted)
                || place.contract().title().toLowerCase(Locale.ROOT).contains(wanted)
                || place.operation().documentation().toLowerCase(Locale.ROOT).contains(wanted);
        if (match) {
            String service = place.contract()
                    .contract()
                    .serviceOf(place.ports().get(0))
                    .map(s -> s.name().getLocalPart())
                    .orElse("");
            groups.computeIfAbsent(new Row.Heading(place.contract(), service), h -> new ArrayList<>())
                    .add(new Row.OperationRow(place, callable));
        }
    }

    /** Marks the row of an operation without telling of it. */
    void select(OperationPlace now) {
        for (Row row : rows) {
            if (row instanceof Row.OperationRow o
                    && now != null
                    && o.place().key().equals(now.key())
                    && o.place().ports().get(0) == now.ports().get(0)
                    && o.place().contract().name().equals(now.contract().name())) {
                choosing = true;
                grid.list().getSelectionModel().select(row);
                choosing = false;
            }
        }
    }

    private Node heading(Row.Heading heading) {
        KeptContract contract = heading.contract();
        List<Service> services = contract.contract().services();
        String of = services.size() > 1 ? " · " + heading.service() : "";
        Label source = Parts.text(
                "· "
                        + (contract.isWritten()
                                ? "written here"
                                : contract.contract().source()) + words(contract),
                "third",
                "small");
        source.setMinWidth(0);
        var more = Parts.link("Manage", "Rename, remove, export, set the endpoint", () -> manage.accept(contract));
        more.setId("manage-" + contract.name());
        more.getStyleClass().add("table-text");
        more.setMinWidth(USE_PREF_SIZE);
        Label name = Parts.text(contract.title() + of, "strong", "table-text", "second");
        name.setMinWidth(USE_PREF_SIZE);
        var compare = contract.isWritten()
                ? Parts.link(
                        "Edit", "Change what is written", () -> models.written().edit(contract))
                : Parts.link(
                        "Compare",
                        "Read its source once more and show what changed",
                        () -> models.changes().compare(contract));
        compare.setId((contract.isWritten() ? "edit-" : "compare-") + contract.name());
        compare.getStyleClass().add("table-text");
        compare.setMinWidth(USE_PREF_SIZE);
        HBox box = new HBox(4, name, source, Parts.spring(), compare, more);
        HBox.setHgrow(box, javafx.scene.layout.Priority.ALWAYS);
        return box;
    }

    private static String words(KeptContract contract) {
        String version = "2.0".equals(contract.contract().wsdl()) ? " · WSDL 2.0" : "";
        return contract.contract().operations().values().stream()
                        .findFirst()
                        .flatMap(p -> p.get(0).binding().operations().stream().findFirst())
                        .map(o -> " · " + WirePane.style(o))
                        .orElse("")
                + version;
    }

    private Node operation(Row.OperationRow row) {
        OperationPlace place = row.place();
        Label name = Parts.text(place.key(), row.callable() ? "strong" : "second", "table-text");
        HBox box = new HBox(6, name);
        box.setAlignment(Pos.CENTER_LEFT);
        box.setMinWidth(0);
        if (place.operation().pattern() != Operation.Pattern.REQUEST_RESPONSE) {
            box.getChildren().add(Parts.text(place.operation().pattern().code(), "tag", "bronze"));
        }
        return box;
    }

    private Node takesGives(OperationPlace place) {
        Operation o = place.operation();
        Label label = Parts.text(OutlineWords.takes(place) + " → " + OutlineWords.gives(place), "second", "table-text");
        HBox box = new HBox(6, label);
        box.setAlignment(Pos.CENTER_LEFT);
        box.setMinWidth(0);
        if (!o.faults().isEmpty()) {
            Label faults = Parts.text("◇ " + Counted.of(o.faults().size(), "fault"), "fault", "table-text");
            faults.setMinWidth(USE_PREF_SIZE);
            box.getChildren().add(faults);
        }
        o.needs().stream().limit(2).forEach(need -> {
            Label tag = Parts.text(need, "tag");
            tag.setMinWidth(USE_PREF_SIZE);
            box.getChildren().add(tag);
        });
        return box;
    }

    private static Node bindings(OperationPlace place) {
        HBox box = new HBox(4);
        box.setAlignment(Pos.CENTER_LEFT);
        place.ports().stream()
                .flatMap(p -> tags(p.binding()))
                .distinct()
                .sorted()
                .forEach(v -> box.getChildren().add(Parts.text(v, "tag")));
        return box;
    }

    /** The version, and what carries it where that is not HTTP. */
    private static Stream<String> tags(Binding binding) {
        String version = binding.protocol().title().replace("SOAP ", "");
        return switch (binding.protocol().soap() ? binding.transport().kind() : Transport.Kind.HTTP) {
            case HTTP -> Stream.of(version);
            case OTHER -> Stream.of(version, binding.transport().name());
            case UNKNOWN -> Stream.of(version, "transport?");
        };
    }

    private List<Case> cases(OperationPlace place) {
        return desk.project().cases(place.contract().name(), place.key());
    }

    private int checks(OperationPlace place) {
        return cases(place).stream().mapToInt(c -> c.checks().size()).sum();
    }

    private Node answers(OperationPlace place) {
        boolean up = models.mocks().host(place.contract().name()).isPresent();
        Optional<MockPlan> plan = desk.project().mock(place.contract().name());
        if (place.ports().stream().noneMatch(p -> p.binding().transport().byHttp())) {
            return Parts.text("", "table-text");
        }
        if (!up) {
            return Parts.marked(Mark.NOT_RUN, "off", "table-text");
        }
        long rules = plan.map(p -> p.of(place.key()).stream()
                        .filter(MockAnswer::conditional)
                        .count())
                .orElse(0L);
        String words = rules > 0
                ? Counted.of(rules, "rule")
                : place.operation().pattern() == Operation.Pattern.ONE_WAY ? "202" : "sample";
        return Parts.marked(Mark.PASSED, words, "table-text");
    }

    private Node last(OperationPlace place) {
        return models.traffic()
                .last(place.contract().name(), place.key())
                .map(l -> (Node) Parts.marked(
                        Numbers.mark(l.outcome()),
                        l.outcome() == dev.mockbell.exchange.Exchange.Outcome.FINE ? l.millis() + " ms" : l.note(),
                        "table-text"))
                .orElseGet(() -> Parts.text("not called", "third", "table-text"));
    }

    private String lastWords(OperationPlace place) {
        return models.traffic()
                .last(place.contract().name(), place.key())
                .map(l -> l.outcome().ordinal() + " " + l.note())
                .orElse("~");
    }

    private static Node listed(OperationPlace place) {
        Port port = place.ports().get(0);
        boolean soap = port.binding().protocol().soap();
        Label words = Parts.text("listed only", "third", "table-text");
        Parts.tip(
                words,
                soap
                        ? "The service begins this exchange, so a client cannot call it."
                        : "Bindings of this kind cannot be called from here.");
        return words;
    }
}
