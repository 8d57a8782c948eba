package dev.mockbell.desktop.view.message;

import dev.mockbell.completion.Completions;
import dev.mockbell.desktop.model.ExpressionValues;
import dev.mockbell.desktop.model.Flaws;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.part.XmlArea.Squiggle;
import dev.mockbell.expression.ExpressionWords;
import dev.mockbell.xml.TagScan;
import java.io.File;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.geometry.Bounds;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.Popup;
import org.fxmisc.richtext.CodeArea;
import org.fxmisc.richtext.event.MouseOverTextEvent;
import org.fxmisc.richtext.util.UndoUtils;

/** The XML face of a message that is edited: folding, find and replace, completion by the contract, flaws underlined. */
public final class MessageEditor extends VBox {
    private static final int SCANNED_AT_ONCE = 50_000;
    private static final int MOST_COMPLETED = 1_000_000;
    private static final int MOST_PROPOSALS = 9;
    private static final int ROW = 24;

    private final MessageModel model;
    private final Flaws flaws;
    private final ExpressionValues values;
    private final Consumer<String> tell;
    private final XmlArea xml = new XmlArea(true);
    private final FindBar find;
    private final VBox problems = new VBox(2);
    private final PauseTransition settle = new PauseTransition(javafx.util.Duration.millis(350));
    private Popup popup;
    private final PauseTransition rest = new PauseTransition(javafx.util.Duration.millis(200));
    private final XmlFolds folds;
    private TagScan scan = TagScan.of("");
    private long scans;

    public MessageEditor(MessageModel model, Flaws flaws, ExpressionValues values, Consumer<String> tell) {
        this.model = model;
        this.flaws = flaws;
        this.values = values;
        this.tell = tell;
        this.find = new FindBar(xml, model::elsewhere, model::replaceXml);
        model.onSettle(this::settle);
        CodeArea area = xml.area();
        // one history for both faces: the model's
        area.setUndoManager(UndoUtils.noOpUndoManager());
        area.setId("request-xml");
        folds = new XmlFolds(xml, () -> scan);
        problems.getStyleClass().add("flaws");
        problems.setId("xml-flaws");
        Parts.shown(problems, false);
        getChildren().addAll(find, Parts.tall(xml), problems);
        model.xmlProperty().addListener((InvalidationListener) o -> show());
        xml.onChange(() -> {
            scanSoon();
            if (xml.typing().get() || find.isVisible()) {
                settle.playFromStart();
            }
        });
        settle.setOnFinished(e -> typed());
        xml.typing().addListener((o, was, now) -> {
            if (was && !now) {
                settle();
            }
        });
        flaws.found().addListener((InvalidationListener) o -> showFlaws());
        area.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        area.addEventHandler(KeyEvent.KEY_TYPED, e -> {
            String typed = e.getCharacter();
            boolean starts = "<{$".contains(typed) && !typed.isEmpty();
            if (starts || "/".equals(typed) && before(2).equals("</")) {
                propose();
            } else if (popup != null) {
                propose();
            }
        });
        area.caretPositionProperty().addListener((o, was, now) -> matching(now));
        area.setMouseOverTextDelay(Duration.ofMillis(400));
        Tooltip tip = new Tooltip();
        area.addEventHandler(
                MouseOverTextEvent.MOUSE_OVER_TEXT_BEGIN,
                e -> flawAt(e.getCharacterIndex()).ifPresent(f -> {
                    tip.setText(f);
                    tip.show(
                            area,
                            e.getScreenPosition().getX(),
                            e.getScreenPosition().getY() + 12);
                }));
        area.addEventHandler(MouseOverTextEvent.MOUSE_OVER_TEXT_END, e -> tip.hide());
        Parts.dropped(this, file -> model.replaceByFile(file, tell));
        sceneProperty().addListener((o, was, now) -> show());
    }

    /** Finds the tags anew; those of a large text elsewhere, and until then none is known. */
    private void scanSoon() {
        long own = ++scans;
        int length = xml.area().getLength();
        if (length <= SCANNED_AT_ONCE) {
            scan = TagScan.of(xml.text());
            // lines that look as before are not made anew, but what begins in them may end elsewhere now
            Platform.runLater(folds::refresh);
            return;
        }
        scan = TagScan.of("");
        rest.setOnFinished(e -> {
            if (own != scans || xml.isFilling()) {
                return;
            }
            String text = xml.text();
            model.elsewhere(
                    () -> TagScan.of(text),
                    found -> {
                        if (own == scans) {
                            scan = found;
                            matching(xml.area().getCaretPosition());
                            folds.refresh();
                        }
                    },
                    problem -> {});
        });
        rest.playFromStart();
    }

    private String before(int count) {
        int caret = xml.area().getCaretPosition();
        return xml.area().getText(Math.max(0, caret - count), caret);
    }

    /** Takes over what has been typed without waiting for it to rest. */
    private void settle() {
        if (settle.getStatus() == javafx.animation.Animation.Status.RUNNING) {
            settle.stop();
            typed();
        }
    }

    private void typed() {
        if (xml.area().isEditable()) {
            model.typeXml(xml.text());
        }
    }

    /** Shows the text as the model has it. */
    public void show() {
        if (getScene() == null) {
            // out of sight it would only cost; it is shown anew when it comes into view
            return;
        }
        int caret = xml.area().getCaretPosition();
        boolean other = !model.xml().equals(xml.text());
        if (other) {
            settle.stop();
            xml.show(model.xml());
            if (xml.typing().get()) {
                xml.area().moveTo(Math.min(caret, xml.area().getLength()));
            }
        }
    }

    /** Opens the bar to find and replace in the text. */
    public void find() {
        find.open();
    }

    private void key(KeyEvent e) {
        boolean shortcut = e.isShortcutDown();
        if (popup != null
                && (e.getCode() == KeyCode.ESCAPE || e.getCode() == KeyCode.LEFT || e.getCode() == KeyCode.RIGHT)) {
            closePopup();
            if (e.getCode() == KeyCode.ESCAPE) {
                e.consume();
            }
        } else if (shortcut && e.isShiftDown() && e.getCode() == KeyCode.F) {
            format();
            e.consume();
        } else if (shortcut && (e.getCode() == KeyCode.F || e.getCode() == KeyCode.H)) {
            find.open();
            e.consume();
        } else if (shortcut && e.getCode() == KeyCode.SPACE) {
            propose();
            e.consume();
        } else if (shortcut && e.getCode() == KeyCode.Z) {
            if (e.isShiftDown()) {
                model.redo();
            } else {
                model.undo();
            }
            e.consume();
        } else if (shortcut && e.getCode() == KeyCode.M) {
            jump();
            e.consume();
        }
    }

    /** Lays the message out anew; what is not well-formed stays. */
    public void format() {
        model.layOut(tell);
    }

    /** Lets a file's text take the place of the message. */
    public void open(File file) {
        model.replaceByFile(file.toPath(), tell);
    }

    private void matching(int caret) {
        Optional<TagScan.Tag> tag = scan.at(caret);
        Optional<TagScan.Tag> partner = tag.flatMap(scan::partner);
        xml.matching(tag.filter(t -> partner.isPresent()), partner);
    }

    private void jump() {
        scan.at(xml.area().getCaretPosition()).flatMap(scan::partner).ifPresent(p -> xml.select(p.start(), p.start()));
    }

    private Optional<String> flawAt(int index) {
        return xml.squiggles().stream()
                .filter(s -> s.start() <= index && index <= s.end())
                .map(Squiggle::text)
                .findFirst();
    }

    private void showFlaws() {
        List<Flaws.Flaw> all = flaws.found().get();
        xml.squiggle(all.stream()
                .filter(f ->
                        f.line() > 0 && f.line() <= xml.area().getParagraphs().size())
                .map(this::squiggle)
                .toList());
        problems.getChildren().clear();
        for (Flaws.Flaw flaw : all.stream().limit(4).toList()) {
            String where = flaw.line() > 0 ? "line " + flaw.line() + ": " : "";
            Label label = Parts.marked(Mark.FAILED, where + flaw.text(), "table-text");
            label.setMinWidth(0);
            Parts.tip(label, flaw.text());
            if (flaw.line() > 0) {
                label.setOnMouseClicked(e -> xml.goTo(flaw.line()));
            }
            problems.getChildren().add(label);
        }
        if (all.size() > 4) {
            problems.getChildren().add(Parts.text("and " + (all.size() - 4) + " more", "third", "table-text"));
        }
        Parts.shown(problems, !all.isEmpty());
    }

    private Squiggle squiggle(Flaws.Flaw flaw) {
        int line = flaw.line() - 1;
        int length = xml.area().getParagraphLength(line);
        int start = xml.area().getAbsolutePosition(line, Math.min(length, Math.max(0, flaw.column() - 1)));
        // what is wrong in a text ends at the next tag, if not before
        int tag = xml.area().getParagraph(line).getText().indexOf('<', Math.max(0, flaw.column() - 1) + 1);
        int lineEnd = xml.area().getAbsolutePosition(line, tag < 0 ? length : tag);
        int whole = xml.area().getLength();
        int end = scan.at(Math.min(start + 1, whole))
                .filter(t -> t.start() >= start)
                .map(TagScan.Tag::end)
                .orElse(lineEnd);
        return end > start
                ? new Squiggle(start, end, flaw.text())
                : new Squiggle(Math.max(0, start - 1), Math.min(whole, start + 1), flaw.text());
    }

    /** Shows what may stand at the caret: words of an expression within braces, or else what the contract has there. */
    private void propose() {
        closePopup();
        int length = xml.area().getLength();
        if (model.outline().isEmpty() || length > MOST_COMPLETED || !xml.area().isEditable()) {
            return;
        }
        int caret = xml.area().getCaretPosition();
        String text = xml.text();
        ExpressionWords.At words = values.wordsInXml(text, caret);
        if (!words.words().isEmpty()) {
            offer(new Completions.At(
                    words.from(),
                    words.words().stream()
                            .map(w -> new Completions.Proposal(w, "", "", w, w.length()))
                            .toList()));
            return;
        }
        model.complete(text, caret, at -> {
            boolean still = xml.area().getCaretPosition() == caret && xml.area().getLength() == length;
            if (still && getScene() != null) {
                closePopup();
                offer(at);
            }
        });
    }

    private void offer(Completions.At at) {
        Optional<Bounds> place = xml.area().getCaretBounds();
        if (at.proposals().isEmpty() || place.isEmpty()) {
            return;
        }
        ListView<Completions.Proposal> list = new ListView<>();
        list.getItems().setAll(at.proposals());
        list.setFixedCellSize(ROW);
        list.setId("completions");
        list.getStyleClass().add("choices");
        list.setPrefSize(340, Math.min(MOST_PROPOSALS, at.proposals().size()) * ROW + 4.0);
        list.setCellFactory(v -> new ListCell<>() {
            @Override
            protected void updateItem(Completions.Proposal item, boolean empty) {
                super.updateItem(item, empty);
                setGraphic(
                        empty || item == null
                                ? null
                                : new HBox(
                                        8,
                                        Parts.text(item.label(), "mono"),
                                        Parts.spring(),
                                        Parts.text(item.detail(), "third", "small")));
            }
        });
        list.getSelectionModel().select(0);
        list.setOnMouseClicked(e -> take(at, list));
        popup = new Popup();
        popup.setAutoHide(true);
        StackPane ground = new StackPane(list);
        ground.getStyleClass().add("popup-ground");
        ground.getStyleClass().addAll(getScene().getRoot().getStyleClass());
        ground.getStylesheets().setAll(getScene().getStylesheets());
        popup.getContent().add(ground);
        popup.setOnHidden(e -> popup = null);
        popup.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            int chosen = list.getSelectionModel().getSelectedIndex();
            switch (e.getCode()) {
                case DOWN ->
                    list.getSelectionModel()
                            .select(Math.min(chosen + 1, list.getItems().size() - 1));
                case UP -> list.getSelectionModel().select(Math.max(0, chosen - 1));
                case ENTER, TAB -> take(at, list);
                case ESCAPE -> closePopup();
                default -> {
                    return;
                }
            }
            list.scrollTo(list.getSelectionModel().getSelectedIndex());
            e.consume();
        });
        popup.show(xml.area(), place.get().getMinX(), place.get().getMaxY() + 2);
    }

    private void take(Completions.At at, ListView<Completions.Proposal> list) {
        Completions.Proposal proposal = list.getSelectionModel().getSelectedItem();
        closePopup();
        if (proposal != null) {
            xml.area().replaceText(at.from(), xml.area().getCaretPosition(), proposal.text());
            xml.area().moveTo(at.from() + proposal.caret());
        }
    }

    private void closePopup() {
        if (popup != null) {
            popup.hide();
            popup = null;
        }
    }
}
