package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CopyOut;
import dev.mockbell.validation.Fit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The cases of an operation as chips in their order, and what can be done with them. */
public final class CaseBar extends HBox {
    private final CallView view;
    private final CallModel model;
    private final Desk desk;
    private final HBox chips = new HBox(7);
    private final ScrollPane scroll = new ScrollPane(chips);
    private final Button everyCase = Parts.button("All ▾", "All cases of the operation", () -> {}, "quiet", "dense");
    private final Button add;

    /** The chips that are there: one that is made anew while it is pressed would not hear of it. */
    private Map<Of, Button> shown = Map.of();

    private int dragged = -1;

    /**
     * What a chip stands for. Another result leaves it as it is, but for its mark.
     *
     * @param fit what of the case does not fit the contract
     */
    private record Of(String reference, String id, String title, String description, Optional<Fit> fit) {
        String tip() {
            return (description.isEmpty() ? title : description)
                    + fit.map(f -> "\nDoes not fit the contract: " + f.misfits().get(0))
                            .orElse("");
        }
    }

    CaseBar(CallView view, CallModel model, Desk desk) {
        super(8);
        this.view = view;
        this.model = model;
        this.desk = desk;
        setAlignment(Pos.CENTER_LEFT);
        chips.setAlignment(Pos.CENTER_LEFT);
        scroll.getStyleClass().add("chips");
        scroll.setFitToHeight(true);
        scroll.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        scroll.setMinWidth(60);
        scroll.setOnScroll(e -> {
            double room = chips.getWidth() - scroll.getViewportBounds().getWidth();
            if (room > 0) {
                scroll.setHvalue(scroll.getHvalue() - (e.getDeltaY() + e.getDeltaX()) / room);
                e.consume();
            }
        });
        HBox.setHgrow(scroll, Priority.ALWAYS);
        Button variables = Parts.button(
                "Variables", "Values of the case, the environment and the project", this::variables, "quiet", "dense");
        variables.setId("variables");
        Button copy =
                Parts.button("Copy as ▾", "The request as something to paste elsewhere", () -> {}, "quiet", "dense");
        copy.setId("copy-as");
        copy.setOnAction(e -> copyMenu().show(copy, Side.BOTTOM, 0, 2));
        Button more = Parts.button("Case ▾", "What can be done with this case", () -> {}, "quiet", "dense");
        more.setId("case-menu");
        more.setOnAction(e -> caseMenu().show(more, Side.BOTTOM, 0, 2));
        var words = Parts.text("Cases", "third");
        words.setMinWidth(Region.USE_PREF_SIZE);
        everyCase.setId("all-cases");
        everyCase.setOnAction(e -> allMenu().show(everyCase, Side.BOTTOM, 0, 2));
        everyCase.setVisible(false);
        everyCase.managedProperty().bind(everyCase.visibleProperty());
        add = Parts.button(
                "+ New case",
                "Make a case with everything in",
                () -> view.ask("Name of the new case", "New case", t -> model.add(t, false)),
                "quiet");
        add.setId("new-case");
        chips.widthProperty().addListener((o, was, now) -> fit());
        scroll.viewportBoundsProperty().addListener((o, was, now) -> fit());
        getChildren().addAll(words, scroll, everyCase, variables, copy, more);
    }

    /** Offers a list of all when the chips do not fit, and shows the current one. */
    private void fit() {
        double shown = scroll.getViewportBounds().getWidth();
        double room = chips.getWidth() - shown;
        everyCase.setVisible(room > 1);
        everyCase.setText("All " + model.cases().size() + " ▾");
        if (room > 1 && current() != null) {
            // chips that have just come have no place until the next layout
            Platform.runLater(this::reveal);
        }
    }

    /** Brings the current case's chip into view. */
    private void reveal() {
        chips.layout();
        double shown = scroll.getViewportBounds().getWidth();
        double room = chips.getWidth() - shown;
        if (room <= 1 || current() == null) {
            return;
        }
        Node here = chips.lookup("#case-" + current().id());
        if (here != null) {
            double start = here.getBoundsInParent().getMinX();
            double end = here.getBoundsInParent().getMaxX();
            double at = scroll.getHvalue() * room;
            if (start < at || end > at + shown) {
                scroll.setHvalue(Math.max(0, Math.min(1, (start - 20) / room)));
            }
        }
    }

    /** Of this session, or else of the last call that the ledger knows. */
    private Mark mark(Case kept) {
        return model.lastResult(kept)
                .map(r -> Numbers.mark(r.verdict()))
                .or(() -> model.earlier().of(kept).map(Numbers::mark))
                .orElse(Mark.STALE);
    }

    private ContextMenu allMenu() {
        ContextMenu menu = new ContextMenu();
        for (Case kept : model.cases()) {
            MenuItem one = item(kept.title(), () -> model.open(kept));
            one.setGraphic(mark(kept).node());
            menu.getItems().add(one);
        }
        return menu;
    }

    private Case current() {
        return model.currentProperty().get();
    }

    void show() {
        Map<Of, Button> wanted = new LinkedHashMap<>();
        for (Case kept : model.cases()) {
            Of of = new Of(
                    kept.reference(),
                    kept.id(),
                    kept.title(),
                    kept.description(),
                    Optional.ofNullable(model.actions().misfits().get(kept.reference())));
            Button there = shown.get(of);
            Button chip = there == null ? chip(of) : there;
            mark(chip, mark(kept), of.fit().isPresent());
            Parts.classed(
                    chip,
                    "here",
                    current() != null && kept.reference().equals(current().reference()));
            wanted.put(of, chip);
        }
        shown = wanted;
        List<Button> all = new ArrayList<>(wanted.values());
        if (current() != null) {
            all.add(add);
        }
        Node focused = chips.getScene() == null ? null : chips.getScene().getFocusOwner();
        Parts.keep(chips, all);
        // one that was moved among the others goes on having the keyboard
        all.stream().filter(b -> b == focused).forEach(Button::requestFocus);
        fit();
    }

    private static void mark(Button chip, Mark mark, boolean misfit) {
        if (chip.getUserData() != mark) {
            chip.setUserData(mark);
            chip.setGraphic(misfit ? new HBox(4, mark.node(), Mark.FAULT.node()) : mark.node());
        }
    }

    /** As it is now: it may have been edited since its chip was made. */
    private void open(Of of) {
        int index = index(of);
        if (index >= 0) {
            model.open(model.cases().get(index));
        }
    }

    private int index(Of of) {
        List<Case> cases = model.cases();
        int index = cases.size() - 1;
        while (index >= 0 && !cases.get(index).reference().equals(of.reference())) {
            index--;
        }
        return index;
    }

    private Button chip(Of of) {
        Button chip = Parts.button(of.title(), of.tip(), () -> open(of), "chip");
        chip.setId("case-" + of.id());
        chip.setOnContextMenuRequested(e -> {
            open(of);
            caseMenu().show(chip, e.getScreenX(), e.getScreenY());
        });
        chip.setOnKeyPressed(e -> {
            if (e.isAltDown() && (e.getCode() == KeyCode.LEFT || e.getCode() == KeyCode.RIGHT)) {
                open(of);
                model.actions().move(e.getCode() == KeyCode.LEFT ? -1 : 1);
                e.consume();
            } else if (e.getCode() == KeyCode.DELETE) {
                open(of);
                model.delete();
                e.consume();
            }
        });
        chip.setOnDragDetected(e -> {
            dragged = index(of);
            ClipboardContent content = new ClipboardContent();
            content.putString(of.title());
            chip.startDragAndDrop(TransferMode.MOVE).setContent(content);
            e.consume();
        });
        chip.setOnDragOver(e -> {
            if (dragged >= 0) {
                e.acceptTransferModes(TransferMode.MOVE);
            }
        });
        chip.setOnDragDropped(e -> {
            int from = dragged;
            dragged = -1;
            model.actions().moveTo(from, index(of));
            e.setDropCompleted(true);
        });
        return chip;
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> action.run());
        return item;
    }

    private ContextMenu caseMenu() {
        ContextMenu menu = new ContextMenu();
        menu.getItems()
                .addAll(
                        item("Name and description…", this::describe),
                        item(
                                "Duplicate…",
                                () -> view.ask(
                                        "Name of the copy", current().title() + " copy", t -> model.add(t, true))),
                        item("Move left   (Alt+Left)", () -> model.actions().move(-1)),
                        item("Move right   (Alt+Right)", () -> model.actions().move(1)),
                        new SeparatorMenuItem(),
                        item("Boundary cases…", this::boundary),
                        new SeparatorMenuItem(),
                        item("Delete   (Delete)", model::delete));
        return menu;
    }

    private ContextMenu copyMenu() {
        ContextMenu menu = new ContextMenu();
        menu.getItems()
                .addAll(
                        item("curl command", () -> copy(CopyOut.Form.CURL, "curl command")),
                        item("Raw HTTP", () -> copy(CopyOut.Form.RAW, "HTTP request")),
                        item("Java program", () -> copy(CopyOut.Form.JAVA, "Java program")));
        return menu;
    }

    /** Copies the request in a form; the words say to the user which. */
    public void copy(CopyOut.Form form, String words) {
        model.actions().copyOut(form, text -> {
            Copying.text(text);
            desk.tell(Notice.plain("The " + words + " is on the clipboard; secrets stand in it as variables."));
        });
    }

    /** Shows the variables of the case and what expressions may use. */
    public void variables() {
        if (current() != null) {
            VariablesWindow.show(this, model, desk);
        }
    }

    /** Shows the boundary cases that can be made of the operation. */
    public void boundary() {
        if (current() != null) {
            BoundaryWindow.show(this, model);
        }
    }

    /** Lets the user name and describe the case. */
    public void describe() {
        if (current() == null) {
            return;
        }
        TextField title = new TextField(current().title());
        title.setId("case-title");
        title.setAccessibleText("Name of the case");
        TextArea text = new TextArea(current().description());
        text.setId("case-description");
        text.setAccessibleText("What it is about");
        text.setPrefRowCount(4);
        text.setWrapText(true);
        Button keep = Parts.button(
                "Keep",
                "",
                () -> {
                    Overlay.close(this);
                    model.actions().describe(title.getText(), text.getText());
                },
                "primary");
        keep.setId("case-keep");
        title.setOnAction(e -> keep.fire());
        Overlay.show(
                this,
                new VBox(
                        8,
                        Parts.text("Name", "second"),
                        title,
                        Parts.text("What it is about", "second"),
                        text,
                        new HBox(Parts.spring(), keep)),
                460);
        title.selectAll();
    }

    /** Shows what no longer fits and what mending would change. */
    void mend(Fit fit) {
        VBox box = new VBox(6);
        box.getChildren().add(Parts.text("What no longer fits the contract", "title"));
        fit.misfits().stream().limit(8).forEach(m -> box.getChildren().add(wrapped(Mark.FAULT, m.toString())));
        if (fit.misfits().size() > 8) {
            box.getChildren().add(Parts.text("and " + (fit.misfits().size() - 8) + " more", "third"));
        }
        box.getChildren().add(Parts.text("Mending would change", "strong"));
        fit.steps().stream().limit(10).forEach(m -> box.getChildren().add(wrapped(Mark.NOT_RUN, m)));
        if (fit.steps().size() > 10) {
            box.getChildren().add(Parts.text("and " + (fit.steps().size() - 10) + " more", "third"));
        }
        Button mend = Parts.button(
                "Mend",
                "Ctrl+Z brings the old body back",
                () -> {
                    Overlay.close(this);
                    model.actions().mend(fit);
                },
                "primary");
        mend.setId("mend-now");
        box.getChildren().add(new HBox(8, Parts.spring(), mend));
        Overlay.show(this, box, 640);
        mend.requestFocus();
    }

    private static Region wrapped(Mark mark, String words) {
        var label = Parts.marked(mark, words, "table-text");
        label.setWrapText(true);
        Parts.tip(label, words);
        return label;
    }
}
