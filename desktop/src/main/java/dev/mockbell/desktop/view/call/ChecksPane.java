package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.SuiteRunner;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.geometry.Insets;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The checks and captures of the current case, with what they found in the answer that is shown. */
final class ChecksPane extends VBox {
    private final CallModel model;
    private final Desk desk;
    private final Supplier<Optional<SheetRow>> pointed;
    private final Label count = Parts.text("", "tag");
    private final HBox top = Parts.head("Checks", Parts.spring(), count);
    private final VBox list = new VBox(8);
    private final Button add = Parts.button("Add a check", "Choose what the answer must hold to", () -> {});
    private final Button against = Parts.button(
            "try against an exchange…",
            "What these checks make of any answer of the ledger",
            this::askExchange,
            "quiet",
            "link");
    private final HBox captured = Parts.innerHead("Captures");
    private final VBox captures = new VBox(6);
    private final Label none = Parts.text("Point at a value of the answer and choose Capture.", "third", "table-text");

    /** The rows that are there: one that is made anew while it is pressed would not hear of it. */
    private Map<At<Check>, CheckRow> shown = Map.of();

    private Map<At<Capture>, CaptureRow> taking = Map.of();

    /** One of several at its place: the same may stand there twice. */
    private record At<T>(int index, T what) {}

    /** @param pointed gives the row of the answer that is pointed at */
    ChecksPane(CallModel model, Desk desk, Supplier<Optional<SheetRow>> pointed) {
        this.model = model;
        this.desk = desk;
        this.pointed = pointed;
        count.setId("checks-passed");
        for (VBox each : List.of(list, captures)) {
            each.setPadding(new Insets(10, 12, 10, 12));
        }
        add.setMaxWidth(Double.MAX_VALUE);
        add.setId("add-check");
        add.setOnAction(e -> menu().show(add, Side.BOTTOM, 0, 2));
        against.setId("try-against");
        none.setWrapText(true);
    }

    void show() {
        Case kept = model.currentProperty().get();
        if (kept == null) {
            getChildren().clear();
            return;
        }
        Optional<SuiteRunner.Called> called =
                Optional.ofNullable(model.calledProperty().get());
        List<CheckResult> results = called.map(c -> c.result().checks()).orElse(List.of());
        Optional<Answer> answer = called.map(SuiteRunner.Called::answer);
        showPassed(results);
        Map<At<Check>, CheckRow> rows = new LinkedHashMap<>();
        for (int i = 0; i < kept.checks().size(); i++) {
            At<Check> at = new At<>(i, kept.checks().get(i));
            CheckRow there = shown.get(at);
            CheckRow row = there == null ? row(at.what()) : there;
            row.show(i < results.size() ? Optional.of(results.get(i)) : Optional.empty(), answer);
            rows.put(at, row);
        }
        shown = rows;
        List<Node> all = new ArrayList<>(rows.values());
        all.add(add);
        if (!kept.checks().isEmpty()) {
            all.add(against);
        }
        Parts.keep(list, all);
        showCaptures(kept);
        Parts.keep(this, List.of(top, list, captured, captures));
    }

    private void showPassed(List<CheckResult> results) {
        long passed = results.stream().filter(CheckResult::passed).count();
        count.setText(results.isEmpty() ? "" : passed + " of " + results.size());
        count.setVisible(!results.isEmpty());
        Parts.classed(count, "fine", passed == results.size());
        Parts.classed(count, "failed", passed < results.size());
    }

    private CheckRow row(Check check) {
        return new CheckRow(
                check,
                () -> CheckForm.ask(
                        this, check.title(), check, edited -> model.checks().replace(check, edited)),
                () -> model.checks().remove(check));
    }

    private void showCaptures(Case kept) {
        Map<String, String> taken = Optional.ofNullable(model.calledProperty().get())
                .map(c -> c.result().captures())
                .orElse(Map.of());
        Map<At<Capture>, CaptureRow> rows = new LinkedHashMap<>();
        for (Capture capture : kept.captures()) {
            At<Capture> at = new At<>(rows.size(), capture);
            CaptureRow there = taking.get(at);
            CaptureRow row = there == null ? row(capture) : there;
            row.show(Optional.ofNullable(taken.get(capture.name())));
            rows.put(at, row);
        }
        taking = rows;
        Parts.keep(captures, rows.isEmpty() ? List.of(none) : List.copyOf(rows.values()));
    }

    private CaptureRow row(Capture capture) {
        return new CaptureRow(
                capture,
                () -> CaptureForm.ask(this, capture, model),
                () -> model.checks().removeCapture(capture));
    }

    private void askExchange() {
        Form form = new Form();
        TextField number = Form.field("try-number", "", "its number, as in Traffic");
        form.row("exchange", number);
        VBox results = new VBox(6);
        results.setId("try-results");
        results.setPadding(new Insets(4, 12, 4, 12));
        Runnable tried = () -> {
            if (number.getText().strip().matches("[0-9]{1,15}")) {
                model.checks()
                        .tryAgainst(
                                Long.parseLong(number.getText().strip()),
                                found -> results.getChildren()
                                        .setAll(found.stream()
                                                .map(r -> {
                                                    Label label = Parts.marked(Numbers.mark(r.verdict()), r.sentence());
                                                    label.setWrapText(true);
                                                    return label;
                                                })
                                                .toList()));
            }
        };
        number.setOnAction(e -> tried.run());
        Button button = Parts.button("Try", "Enter", tried, "primary");
        button.setId("try-now");
        Overlay.show(
                this,
                new VBox(
                        8,
                        Parts.text("The checks of this case against an exchange", "strong"),
                        form,
                        results,
                        new HBox(Parts.spring(), button)),
                600);
    }

    private ContextMenu menu() {
        ContextMenu menu = new ContextMenu();
        menu.getItems()
                .addAll(
                        item(new Check.Valid().title(), () -> model.checks().add(new Check.Valid())),
                        item(new Check.NoFault().title(), () -> model.checks().add(new Check.NoFault())));
        OperationPlace place = desk.placeProperty().get();
        for (String fault : place.operation().faults().stream()
                .map(f -> f.element().map(e -> e.getLocalPart()).orElse(f.name()))
                .toList()) {
            Check check = new Check.FaultIs(fault);
            menu.getItems().add(item(check.title(), () -> model.checks().add(check)));
        }
        String path = pointed.get().map(SheetRow::path).orElse("");
        pointed.get()
                .ifPresent(row -> menu.getItems()
                        .add(item(
                                "Value of " + row.label(), () -> model.checks().addValue(row))));
        menu.getItems().add(new SeparatorMenuItem());
        asked(menu, "Value…", new Check.Value(path, ""));
        asked(menu, "Condition (XPath)…", new Check.Condition("count(//*) gt 1"));
        asked(menu, "Text in the message…", new Check.MessageText(Check.Match.HAS, ""));
        asked(menu, "Something is there…", new Check.Present(path));
        asked(menu, "So many of…", new Check.Count(everywhere(path), 1, Long.MAX_VALUE));
        asked(menu, "Every one of…", new Check.Each(everywhere(path), true, ""));
        asked(menu, "Some of…", new Check.Each(everywhere(path), false, ""));
        asked(menu, "The values of…", new Check.Items(everywhere(path), List.of(), true));
        model.currentProperty()
                .get()
                .baseline()
                .ifPresent(b -> asked(menu, "Same as the baseline…", new Check.SameAsBaseline()));
        menu.getItems().add(new SeparatorMenuItem());
        asked(menu, "Answered within…", new Check.Within(400));
        asked(menu, "At most so many bytes…", new Check.SizeAtMost(100_000));
        asked(menu, "Status…", new Check.StatusIs("2xx"));
        asked(menu, "Header of the transport…", new Check.HeaderIs("Content-Type", Check.Match.HAS, "xml"));
        asked(menu, "So many parts…", new Check.PartCount(1));
        asked(menu, "What a part is…", new Check.PartIs("1", Check.PartIs.Fact.TYPE, ""));
        asked(menu, "Security verified…", new Check.Secured());
        return menu;
    }

    /** Those like the one at a path, wherever they repeat. */
    private static String everywhere(String path) {
        return path.replaceAll("\\[\\d+\\]", "");
    }

    private void asked(ContextMenu menu, String words, Check proposal) {
        String title = words.replace("…", "");
        menu.getItems()
                .add(item(
                        words,
                        () -> CheckForm.ask(
                                this, title, proposal, made -> model.checks().add(made))));
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> action.run());
        return item;
    }
}
