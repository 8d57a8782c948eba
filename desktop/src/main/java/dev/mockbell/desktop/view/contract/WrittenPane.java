package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Finding;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.model.WrittenModel;
import dev.mockbell.desktop.model.WrittenModel.Made;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.problem.Counted;
import dev.mockbell.written.Flaw;
import java.util.List;
import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** A contract that is written by hand: the table at the left, and beside it what others will read. */
final class WrittenPane extends VBox {
    private final WrittenModel model;
    private final Desk desk;
    private final MocksModel mocks;
    private final WrittenTable table;
    private final WrittenDocumentsPane documents;
    private final Label subtitle = Parts.text("", "second");
    private final HBox foot = Parts.foot();
    private final Label cases = Parts.text("", "second");
    private List<Flaw> flaws = List.of();

    WrittenPane(WrittenModel model, Desk desk, MocksModel mocks) {
        this.model = model;
        this.desk = desk;
        this.mocks = mocks;
        setId("written");
        getStyleClass().add("station");
        documents = new WrittenDocumentsPane(model);
        table = new WrittenTable(model, this::chosen);
        VBox left = Parts.panel(
                Parts.head(
                        "Operations and their fields",
                        Parts.text("Tab goes in, Shift+Tab out, Enter adds", "third", "table-text")),
                Parts.tall(table),
                foot);
        left.setMinWidth(0);
        HBox.setHgrow(left, Priority.ALWAYS);
        VBox right = Parts.panel(Parts.tall(documents));
        right.setMinWidth(440);
        right.setMaxWidth(440);
        HBox panels = new HBox(10, left, right);
        VBox.setVgrow(panels, Priority.ALWAYS);
        getChildren().addAll(head(), panels);
        model.madeProperty().addListener((o, was, now) -> showMade(now));
        showMade(model.madeProperty().get());
        addEventFilter(KeyEvent.KEY_PRESSED, this::keys);
    }

    private HBox head() {
        Button sample = Parts.button("From a sample…", "Fields of a message of XML or JSON", this::askSample);
        sample.setId("written-sample");
        Button paste = Parts.button("Paste a table", "Cells copied from a spreadsheet", this::paste);
        paste.setId("written-paste");
        Button copy = Parts.button("Copy", "All cells, for a spreadsheet", () -> Copying.text(model.cells()));
        Button out = Parts.button("Write out…", "The WSDL and its schema as files", this::writeOut);
        out.setId("written-out");
        Button done = Parts.button("Done", "Back to the board; everything is kept (Esc)", model::leave);
        done.setId("written-done");
        Button mock = Parts.button("Mock it", "Stand in for the service (Ctrl+Enter)", this::mock, "primary");
        mock.setId("written-mock");
        Label title = Parts.text(model.openProperty().get().title(), "title");
        title.setMinWidth(USE_PREF_SIZE);
        Label tag = Parts.text("written here", "tag", "bronze");
        tag.setMinWidth(USE_PREF_SIZE);
        subtitle.setMinWidth(0);
        HBox head = new HBox(title, tag, subtitle, Parts.spring(), sample, paste, copy, out, done, mock);
        head.getStyleClass().add("station-head");
        return head;
    }

    private void keys(KeyEvent e) {
        boolean ctrl = e.isShortcutDown();
        if (ctrl && e.getCode() == KeyCode.Y && undo(true)) {
            e.consume();
        } else if (ctrl && e.getCode() == KeyCode.ENTER) {
            mock();
            e.consume();
        } else if (e.getCode() == KeyCode.ESCAPE && !table.isChoosing()) {
            model.leave();
            e.consume();
        }
    }

    /** Takes the last change back, or makes it again; false when there is none. */
    boolean undo(boolean redo) {
        boolean done = redo ? model.redo() : model.undo();
        if (done) {
            table.show(table.at(), null);
        }
        return done;
    }

    private void chosen(int row) {
        documents.show(row);
        model.operation(row)
                .filter(o -> model.madeProperty().get() != null)
                .ifPresentOrElse(o -> model.cases(o, cases::setText), () -> cases.setText(""));
    }

    private void showMade(Made made) {
        if (made == null) {
            return;
        }
        flaws = made.documents().flaws();
        table.flaws(flaws);
        documents.show(table.at());
        List<Finding> findings = made.contract().findings();
        long fields = model.rows().stream()
                .filter(r -> r.isField() && !r.name().isBlank())
                .count();
        subtitle.setText(
                Counted.of(model.contract().operations().size(), "operation") + " · " + Counted.of(fields, "field"));
        foot.getChildren().clear();
        cases.setMinWidth(0);
        if (!flaws.isEmpty()) {
            Label first = Parts.marked(Mark.FAILED, flaws.get(0).text(), "table-text");
            first.setId("written-flaw");
            first.setMinWidth(0);
            Parts.tip(first, flaws.get(0).text());
            Button go = Parts.link(
                    flaws.size() == 1 ? "Go there" : "Go there (1 of " + flaws.size() + ")",
                    "To the row that it is of",
                    () -> table.show(Math.max(0, flaws.get(0).row()), null));
            foot.getChildren().addAll(first, Parts.spring(), go);
        } else if (!findings.isEmpty()) {
            Label first = Parts.marked(
                    FindingsList.mark(findings.get(0).severity()),
                    findings.get(0).text(),
                    "table-text");
            first.setMinWidth(0);
            Parts.tip(first, findings.get(0).text() + ". " + findings.get(0).advice());
            foot.getChildren().addAll(first, Parts.spring(), cases);
        } else {
            foot.getChildren()
                    .addAll(
                            Parts.marked(
                                    Mark.PASSED,
                                    "Valid WSDL 1.1 and XML Schema 1.0 · no breach of the Basic Profile",
                                    "fine",
                                    "table-text"),
                            Parts.spring(),
                            cases);
        }
    }

    private void mock() {
        model.withKept(kept -> {
            mocks.look(kept);
            if (mocks.host(kept.name()).isEmpty()) {
                mocks.startOrStop();
            }
            desk.go(Station.MOCK);
        });
    }

    private void paste() {
        Clipboard clipboard = Clipboard.getSystemClipboard();
        if (clipboard.hasString()) {
            table.show(model.paste(table.at(), clipboard.getString()), null);
        }
    }

    private void askSample() {
        TextArea text = new TextArea();
        text.setId("sample-text");
        text.setPromptText("A message of XML, with or without its envelope, or of JSON");
        text.setPrefRowCount(14);
        text.getStyleClass().add("mono");
        VBox.setMargin(text, new Insets(4, 12, 4, 12));
        Form form = new Form();
        form.getChildren().add(text);
        form.note(
                "A message whose name ends in Response is what the operation gives. JSON goes into the part of the row.");
        int row = table.at();
        Asking.ask(
                this,
                "Fields of a sample",
                form,
                "sample",
                () -> model.sample(row, text.getText()),
                to -> table.show(to, null));
    }

    private void writeOut() {
        model.withKept(kept -> {
            VBox box = new VBox(10, new ExportForm(desk, kept, () -> Overlay.close(this)));
            box.setPadding(new Insets(16));
            Overlay.show(this, box, 660);
        });
    }
}
