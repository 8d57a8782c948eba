package dev.mockbell.desktop.view.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.SheetGrid;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The answer of a mock that is looked at: when it is given, after how long, and what it says. */
final class AnswerPane extends VBox {
    private final MocksModel model;
    private final Desk desk;
    private final XmlArea body = new XmlArea(true);
    private final MessageModel message;
    private final SheetGrid sheet;
    private final StackPane face = new StackPane();
    private Face faceShown = Face.SHEET;
    private String shown = "";

    AnswerPane(Models models) {
        this.model = models.mocks();
        this.desk = models.desk();
        this.message = MessageModel.edited(desk.tasks());
        this.sheet = new SheetGrid("mock-sheet", message, Optional.empty(), t -> desk.tell(Notice.bad(t)));
        message.onEdited(this::keepSheet);
        body.typing().addListener((o, was, now) -> {
            if (was && !now) {
                keepBody();
            }
        });
    }

    private Optional<MockAnswer> at(int index) {
        List<MockAnswer> all = model.answers();
        return index >= 0 && index < all.size() ? Optional.of(all.get(index)) : Optional.empty();
    }

    /** Shows the answer that is chosen now; one that is shown already keeps its fields. */
    void show() {
        boolean same = at(model.answerProperty().get())
                .map(a -> identity(model.answerProperty().get(), a).equals(shown))
                .orElse(shown.isEmpty());
        if (!same) {
            Refocus.around(this, this::anew);
        }
    }

    private void anew() {
        int index = model.answerProperty().get();
        Optional<MockAnswer> chosen = at(index);
        if (chosen.isEmpty()) {
            getChildren().clear();
            shown = "";
            return;
        }
        MockAnswer a = chosen.get();
        String identity = identity(index, a);
        if (identity.equals(shown)) {
            return;
        }
        shown = identity;
        ContentEditor editor = new ContentEditor(index);
        HBox top = Parts.innerHead("Answer " + (index + 1) + " · " + a.title());
        VBox fields = new VBox(8);
        fields.setPadding(new Insets(10, 12, 10, 12));
        if (a.conditional()) {
            top.getChildren()
                    .addAll(
                            Parts.spring(),
                            Parts.button("Delete", "It can be brought back", () -> model.remove(index), "quiet"));
            fields.getChildren().add(when(index, a));
        }
        fields.getChildren().add(delay(index, a));
        fields.getChildren().addAll(a.content().accept(editor));
        body.show(a.body());
        message.open(outline(a), a.body());
        showFace();
        Label hint = Parts.text("{expressions} over $request", "third", "table-text");
        hint.setMinWidth(0);
        getChildren()
                .setAll(
                        top,
                        fields,
                        Parts.innerHead(
                                a.content().accept(new ContentName()),
                                hint,
                                Parts.spring(),
                                Parts.segments(List.of(Face.SHEET, Face.XML), Face::words, faceShown, this::turnTo)),
                        Parts.tall(face));
    }

    private Node when(int index, MockAnswer a) {
        TextField when = new TextField(a.when());
        when.getStyleClass().add("mono");
        when.setId("mock-when");
        when.setPromptText("an XPath over $request");
        onLeaving(
                when,
                text -> at(index)
                        .filter(x -> !x.when().equals(text.strip()) && !text.isBlank())
                        .ifPresent(x -> model.change(index, x.withWhen(text.strip()))));
        return line("When", when);
    }

    private Node delay(int index, MockAnswer a) {
        TextField delay = new TextField(String.valueOf(a.delayMillis()));
        delay.setMaxWidth(90);
        delay.setId("mock-delay");
        onLeaving(
                delay,
                text -> at(index).ifPresent(x -> {
                    if (!text.strip().matches("\\d{1,7}")) {
                        desk.tell(Notice.bad("“" + text + "” is not a whole number of milliseconds."));
                    } else if (Long.parseLong(text.strip()) != x.delayMillis()) {
                        model.change(index, x.withDelay(Long.parseLong(text.strip())));
                    }
                }));
        return line("After (ms)", delay);
    }

    /** The fields that each kind of content has beside its XML. */
    private final class ContentEditor implements AnswerContent.Visitor<List<Node>> {
        private final int index;

        ContentEditor(int index) {
            this.index = index;
        }

        @Override
        public List<Node> message(AnswerContent.Message content) {
            return List.of();
        }

        @Override
        public List<Node> fault(AnswerContent.Fault content) {
            TextField reason = new TextField(content.reason());
            reason.setId("mock-reason");
            onLeaving(reason, text -> {
                if (!text.equals(content.reason())) {
                    at(index)
                            .ifPresent(x -> model.change(
                                    index,
                                    x.withContent(new AnswerContent.Fault(
                                            text, x.content().xml()))));
                }
            });
            return List.of(line("Reason", reason));
        }
    }

    /** What the XML of each kind of content is called. */
    private static final class ContentName implements AnswerContent.Visitor<String> {
        @Override
        public String message(AnswerContent.Message content) {
            return "Body";
        }

        @Override
        public String fault(AnswerContent.Fault content) {
            return "Detail";
        }
    }

    /** What the XML of each kind may hold: the operation's output, or the detail of its fault. */
    private record ContentOutline(Contract contract, Optional<Operation> operation)
            implements AnswerContent.Visitor<MessageOutline> {
        @Override
        public MessageOutline message(AnswerContent.Message content) {
            return operation
                    .flatMap(o -> MessageOutline.ofAnswer(contract, o))
                    .orElseGet(() -> MessageOutline.empty(contract));
        }

        @Override
        public MessageOutline fault(AnswerContent.Fault content) {
            return operation.stream()
                    .flatMap(o -> o.faults().stream())
                    .map(f -> MessageOutline.of(contract, f))
                    .filter(o -> o.root()
                            .filter(r -> content.xml().contains(r.name().getLocalPart()))
                            .isPresent())
                    .findFirst()
                    .orElseGet(() -> MessageOutline.empty(contract));
        }
    }

    private MessageOutline outline(MockAnswer a) {
        Contract contract = model.contractProperty().get().contract();
        Optional<Operation> operation =
                contract.operation(model.operationProperty().get(), null).map(b -> b.operation());
        return a.content().accept(new ContentOutline(contract, operation));
    }

    private String identity(int index, MockAnswer a) {
        return model.contractProperty().get().name() + model.operationProperty().get() + index + a;
    }

    private void turnTo(Face chosen) {
        keepBody();
        faceShown = chosen;
        at(model.answerProperty().get()).ifPresent(a -> {
            if (chosen == Face.SHEET) {
                message.open(outline(a), a.body());
            } else {
                body.show(a.body());
            }
        });
        showFace();
    }

    private void showFace() {
        face.getChildren().setAll(faceShown == Face.SHEET ? sheet : body);
    }

    /** Keeps an edit of the sheet; the pane stays as it is, so that the field keeps the keyboard. */
    private void keepSheet(String text) {
        int index = model.answerProperty().get();
        at(index).filter(a -> !a.body().equals(text)).ifPresent(a -> {
            MockAnswer changed = a.withBody(text);
            shown = identity(index, changed);
            body.show(text);
            model.change(index, changed);
        });
    }

    private void keepBody() {
        int index = model.answerProperty().get();
        at(index)
                .filter(a -> !a.body().equals(body.text()))
                .ifPresent(a -> model.change(index, a.withBody(body.text())));
    }

    /** What was typed is kept with Enter, and when the keyboard goes elsewhere. */
    private static void onLeaving(TextField field, Consumer<String> keep) {
        field.setOnAction(e -> keep.accept(field.getText()));
        field.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                keep.accept(field.getText());
            }
        });
    }

    private static HBox line(String name, TextField field) {
        Label label = Parts.text(name, "second");
        label.setMinWidth(74);
        HBox box = new HBox(8, label, field);
        HBox.setHgrow(field, Priority.ALWAYS);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }
}
