package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The checks and captures of the current case, with what they found in the answer that is shown. */
final class ChecksPane extends VBox {
    private final CallModel model;
    private final Desk desk;
    private final Supplier<Optional<SheetRow>> pointed;

    /** @param pointed gives the row of the answer that is pointed at */
    ChecksPane(CallModel model, Desk desk, Supplier<Optional<SheetRow>> pointed) {
        this.model = model;
        this.desk = desk;
        this.pointed = pointed;
    }

    void show() {
        getChildren().clear();
        Case kept = model.currentProperty().get();
        if (kept == null) {
            return;
        }
        List<CheckResult> results = Optional.ofNullable(model.calledProperty().get())
                .map(c -> c.result().checks())
                .orElse(List.of());
        long passed = results.stream().filter(CheckResult::passed).count();
        HBox top = Parts.head("Checks", Parts.spring());
        if (!results.isEmpty()) {
            Label count =
                    Parts.text(passed + " of " + results.size(), "tag", passed == results.size() ? "fine" : "failed");
            count.setId("checks-passed");
            top.getChildren().add(count);
        }
        VBox list = new VBox(8);
        list.setPadding(new Insets(10, 12, 10, 12));
        for (int i = 0; i < kept.checks().size(); i++) {
            CheckResult result = i < results.size() ? results.get(i) : null;
            list.getChildren().add(check(kept.checks().get(i), result));
        }
        Button add = Parts.button("Add a check", "Choose what the answer must hold to", () -> {});
        add.setMaxWidth(Double.MAX_VALUE);
        add.setId("add-check");
        add.setOnAction(e -> menu().show(add, Side.BOTTOM, 0, 2));
        list.getChildren().add(add);
        if (!kept.checks().isEmpty()) {
            Button against = Parts.button(
                    "try against an exchange…",
                    "What these checks make of any answer of the ledger",
                    this::askExchange,
                    "quiet",
                    "link");
            against.setId("try-against");
            list.getChildren().add(against);
        }
        getChildren().addAll(top, list, Parts.innerHead("Captures"), captures(kept));
    }

    private Node check(Check check, CheckResult result) {
        Mark mark = result == null ? Mark.STALE : Numbers.mark(result.verdict());
        Label title = Parts.marked(mark, check.title());
        title.setWrapText(true);
        title.setMinWidth(0);
        Button remove =
                Parts.button("×", "Take this check away", () -> model.checks().remove(check), "tiny");
        HBox first = new HBox(title, Parts.spring());
        if (check.stops()) {
            Label stops = Parts.text("ends the run", "tag");
            stops.setMinWidth(Region.USE_PREF_SIZE);
            first.getChildren().add(stops);
        }
        Runnable edit = () -> CheckForm.ask(
                this, check.title(), check, edited -> model.checks().replace(check, edited));
        first.getChildren().add(Parts.button("Edit", "Change this check", edit, "tiny"));
        first.getChildren().add(remove);
        VBox box = new VBox(first);
        // why there is no answer stands once, where the answer would
        Optional<Answer> answer =
                Optional.ofNullable(model.calledProperty().get()).map(c -> c.answer());
        boolean answered = answer.flatMap(a -> a.exchange().response()).isPresent()
                && (result == null || !result.found().equals(answer.get().flaw().orElse("")));
        if (result != null && answered) {
            String words = result.passed() ? result.found() : result.finding();
            if (!words.isEmpty() && !words.equals("true")) {
                Label found = Parts.text(
                        result.passed() ? "found " + words : words,
                        "table-text",
                        result.passed() ? "second" : "failed");
                found.setWrapText(true);
                found.setPadding(new Insets(0, 0, 0, 18));
                box.getChildren().add(found);
            }
        }
        return box;
    }

    private Node captures(Case kept) {
        VBox captures = new VBox(6);
        captures.setPadding(new Insets(10, 12, 10, 12));
        Map<String, String> taken = Optional.ofNullable(model.calledProperty().get())
                .map(c -> c.result().captures())
                .orElse(Map.of());
        for (Capture capture : kept.captures()) {
            captures.getChildren().add(capture(capture, taken.get(capture.name())));
        }
        if (kept.captures().isEmpty()) {
            Label none = Parts.text("Point at a value of the answer and choose Capture.", "third", "table-text");
            none.setWrapText(true);
            captures.getChildren().add(none);
        }
        return captures;
    }

    private Node capture(Capture capture, String value) {
        Label name = Parts.text("$" + capture.name(), "mono");
        name.setMinWidth(Region.USE_PREF_SIZE);
        Label from = Parts.text("← " + capture.path().replaceFirst("^/[^/]+/", ""), "table-text", "second");
        from.setMinWidth(0);
        Button remove =
                Parts.button("×", "Take this capture away", () -> model.checks().removeCapture(capture), "tiny");
        Button edit = Parts.button(
                "Edit", "Its name, and what it takes", () -> CaptureForm.ask(this, capture, model), "tiny");
        HBox first = new HBox(5, name, from, Parts.spring(), edit, remove);
        first.setAlignment(Pos.CENTER_LEFT);
        VBox box = new VBox(first);
        if (value != null) {
            box.getChildren().add(Parts.text(value, "third", "table-text"));
        }
        return box;
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
