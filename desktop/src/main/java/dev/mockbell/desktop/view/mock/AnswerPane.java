package dev.mockbell.desktop.view.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.SheetGrid;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.Readiness;
import dev.mockbell.project.KeptContract;
import dev.mockbell.soap.SoapFault;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The answer of a mock that is looked at: when it is given, what it says, and how it behaves. */
final class AnswerPane extends VBox {
    private final MocksModel model;
    private final Desk desk;
    private final XmlArea body = new XmlArea(true);
    private final MessageModel message;
    private final SheetGrid sheet;
    private final Form form = new Form();
    private final ScrollPane formPane = new ScrollPane(form);
    private final StackPane face = new StackPane();
    private final HBox foot = Parts.foot();
    private Face faceShown = Face.SHEET;
    private Optional<Identity> shown = Optional.empty();

    /** What is shown: the same again needs nothing made anew. */
    private record Identity(KeptContract contract, String operation, int index, MockAnswer answer) {}

    AnswerPane(Models models) {
        this.model = models.mocks();
        this.desk = models.desk();
        this.message = MessageModel.template(desk.tasks());
        this.sheet = new SheetGrid("mock-sheet", message, Optional.empty(), t -> desk.tell(Notice.bad(t)));
        formPane.setFitToWidth(true);
        formPane.setId("mock-form");
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

    private Optional<Identity> now() {
        int index = model.answerProperty().get();
        return at(index)
                .map(a -> new Identity(
                        model.contractProperty().get(),
                        model.operationProperty().get(),
                        index,
                        a));
    }

    /** Shows the answer that is chosen now; one that is shown already keeps its fields. */
    void show() {
        if (!now().equals(shown)) {
            Refocus.around(this, this::anew);
        }
        showFoot();
    }

    private void anew() {
        Optional<Identity> next = now();
        if (next.equals(shown)) {
            return;
        }
        shown = next;
        if (next.isEmpty()) {
            getChildren().clear();
            return;
        }
        int index = next.get().index();
        MockAnswer a = next.get().answer();
        List<Face> faces = faces(a);
        if (!faces.contains(faceShown) || model.edits().isFresh(a)) {
            faceShown = faces.get(0);
        }
        TextField title = Form.field("mock-title", a.title(), "what people call it");
        title.setPrefWidth(120);
        Form.onEnd(title, () -> edit(index, x -> x.withTitle(title.getText().strip())));
        HBox top = Parts.innerHead("Answer " + (index + 1) + " ·", title, Parts.spring());
        top.setSpacing(6);
        top.getChildren().addAll(actions(index, a));
        VBox fields = new VBox(6, when(index, a));
        fields.setPadding(new Insets(8, 12, 8, 12));
        fields.getChildren().addAll(faultFields(index, a));
        HBox segments = Parts.segments(faces, Face::words, faceShown, this::turnTo);
        segments.setId("mock-faces");
        HBox second = Parts.innerHead("", Parts.text("{expressions} over $request", "third", "table-text"));
        second.getChildren().remove(0);
        second.getChildren().addAll(Parts.spring(), segments);
        ((Label) second.getChildren().get(0)).setMinWidth(0);
        getChildren().setAll(top, fields, second, Parts.tall(face), foot);
        showFace(index, a);
    }

    private static List<Face> faces(MockAnswer answer) {
        List<Face> faces = new ArrayList<>(
                answer.content().accept(new HasXml()) ? List.of(Face.SHEET, Face.XML) : List.of(Face.CONTENT));
        faces.addAll(List.of(Face.HEADERS, Face.BEHAVIOUR, Face.MEMORY));
        return faces;
    }

    private List<Node> actions(int index, MockAnswer a) {
        List<Node> actions = new ArrayList<>();
        if (a.conditional()) {
            actions.add(action(
                    "↑",
                    "Try it earlier (Alt+Up)",
                    "mock-up-one",
                    () -> model.edits().move(index, -1)));
            actions.add(action(
                    "↓",
                    "Try it later (Alt+Down)",
                    "mock-down-one",
                    () -> model.edits().move(index, 1)));
        }
        actions.add(action(
                "Duplicate", "Ctrl+D", "mock-duplicate", () -> model.edits().duplicate(index)));
        if (model.answers().size() > 1) {
            actions.add(action(
                    "Delete",
                    "It can be brought back (Delete)",
                    "mock-delete",
                    () -> model.edits().remove(index)));
        }
        return actions;
    }

    private static Button action(String words, String tip, String id, Runnable does) {
        Button button = Parts.button(words, tip, does, "quiet");
        button.setId(id);
        return button;
    }

    private Node when(int index, MockAnswer a) {
        TextField when = new TextField(a.when());
        when.getStyleClass().add("mono");
        when.setId("mock-when");
        when.setPromptText("every request, or an XPath over $request");
        Form.onEnd(when, () -> edit(index, x -> x.withWhen(when.getText().strip())));
        return line("When", when);
    }

    private List<Node> faultFields(int index, MockAnswer a) {
        if (!(a.content() instanceof AnswerContent.Fault fault)) {
            return List.of();
        }
        TextField reason = new TextField(fault.reason());
        reason.setId("mock-reason");
        Form.onEnd(reason, () -> editFault(index, f -> f.withReason(reason.getText())));
        ComboBox<String> code = new ComboBox<>();
        code.getItems().setAll("the service's", "the sender's");
        code.getSelectionModel().select(fault.code() == SoapFault.Code.SENDER ? 1 : 0);
        code.setId("mock-code");
        code.setOnAction(e -> {
            boolean sender = code.getSelectionModel().getSelectedIndex() == 1;
            editFault(index, f -> f.withCode(sender ? SoapFault.Code.SENDER : SoapFault.Code.RECEIVER));
        });
        code.setMinWidth(128);
        HBox line = line("Reason", reason);
        line.getChildren().addAll(Parts.text("fault is", "second"), code);
        return List.of(line);
    }

    /** Changes an answer as it is by now: the sheet may have changed it since its fields were made. */
    private void edit(int index, UnaryOperator<MockAnswer> change) {
        at(index).ifPresent(now -> keep(index, change.apply(now)));
    }

    private void editFault(int index, UnaryOperator<AnswerContent.Fault> change) {
        edit(
                index,
                now -> now.content() instanceof AnswerContent.Fault fault ? now.withContent(change.apply(fault)) : now);
    }

    /** Keeps a change of one answer; the pane follows. */
    private void keep(int index, MockAnswer changed) {
        model.edits().change(index, changed);
    }

    /** Whether a content is XML of its own. */
    private static final class HasXml implements AnswerContent.Visitor<Boolean> {
        @Override
        public Boolean message(AnswerContent.Message content) {
            return true;
        }

        @Override
        public Boolean fault(AnswerContent.Fault content) {
            return true;
        }

        @Override
        public Boolean requestBack(AnswerContent.RequestBack content) {
            return false;
        }

        @Override
        public Boolean file(AnswerContent.FileBody content) {
            return false;
        }

        @Override
        public Boolean nothing(AnswerContent.Nothing content) {
            return false;
        }

        @Override
        public Boolean passOn(AnswerContent.PassOn content) {
            return false;
        }
    }

    /** What the XML of an answer may hold: the operation's output, or the detail of its fault. */
    private MessageOutline outline(MockAnswer a) {
        Contract contract = model.contractProperty().get().contract();
        Optional<Operation> operation =
                contract.operation(model.operationProperty().get(), null).map(b -> b.operation());
        Optional<MessageOutline> found = a.content().isFault()
                ? operation.stream()
                        .flatMap(o -> o.faults().stream())
                        .map(f -> MessageOutline.of(contract, f))
                        .filter(o -> o.root()
                                .filter(r -> a.body().contains(r.name().getLocalPart()))
                                .isPresent())
                        .findFirst()
                : operation.flatMap(o -> MessageOutline.ofAnswer(contract, o));
        return found.orElseGet(() -> MessageOutline.empty(contract));
    }

    private void turnTo(Face chosen) {
        keepBody();
        faceShown = chosen;
        int index = model.answerProperty().get();
        at(index).ifPresent(a -> showFace(index, a));
    }

    private void showFace(int index, MockAnswer a) {
        Consumer<MockAnswer> keep = changed -> edit(index, now -> changed.over(a, now));
        switch (faceShown) {
            case SHEET -> message.open(outline(a), a.body());
            case XML -> body.show(a.body());
            case CONTENT -> new ContentForm(form, a, () -> desk.project().folder(), keep).show();
            case HEADERS -> new HeadForm(keep).show(form, a);
            case BEHAVIOUR -> new BehaviourForm(keep, desk::tell).show(form, a);
            default -> new MemoryForm(keep, desk::tell).show(form, a);
        }
        Node wanted = faceShown == Face.SHEET ? sheet : faceShown == Face.XML ? body : formPane;
        if (face.getChildren().size() != 1 || face.getChildren().get(0) != wanted) {
            face.getChildren().setAll(wanted);
        }
    }

    /** What keeps the answer from being given as it was written, and what the mock does meanwhile. */
    private void showFoot() {
        int index = model.answerProperty().get();
        Optional<Readiness.Remark> remark = model.remarks().stream()
                .filter(r -> r.operation().equals(model.operationProperty().get()))
                .filter(r -> r.answer() == index || r.answer() < 0)
                .findFirst();
        foot.getChildren().clear();
        remark.ifPresent(r -> {
            Label words = Parts.marked(
                    r.kind() == Readiness.Kind.BROKEN ? Mark.FAILED : Mark.FAULT,
                    r.text().replaceFirst("^Answer \\d+ · [^:]*?: ", ""),
                    r.kind() == Readiness.Kind.BROKEN ? "failed" : "fault",
                    "table-text");
            words.setId("mock-remark");
            words.setMinWidth(0);
            Parts.tip(words, r.text());
            foot.getChildren().addAll(words, Parts.spring());
            boolean earlier = model.host()
                    .filter(h -> h.servesEarlier(r.operation(), r.answer()))
                    .isPresent();
            if (r.kind() == Readiness.Kind.BROKEN && earlier) {
                Label meanwhile = Parts.text("The last good version is served", "third", "table-text");
                meanwhile.setMinWidth(USE_PREF_SIZE);
                foot.getChildren().add(meanwhile);
            }
        });
        Parts.shown(foot, remark.isPresent());
    }

    /** Keeps an edit of the sheet; the pane stays as it is, so that the field keeps the keyboard. */
    private void keepSheet(String text) {
        int index = model.answerProperty().get();
        at(index).filter(a -> !a.body().equals(text)).ifPresent(a -> {
            MockAnswer changed = a.withBody(text);
            shown = Optional.of(new Identity(
                    model.contractProperty().get(), model.operationProperty().get(), index, changed));
            model.edits().change(index, changed);
        });
    }

    private void keepBody() {
        int index = model.answerProperty().get();
        if (faceShown == Face.XML) {
            at(index)
                    .filter(a -> !a.body().equals(body.text()))
                    .ifPresent(a -> model.edits().change(index, a.withBody(body.text())));
        }
    }

    private static HBox line(String name, TextField field) {
        Label label = Parts.text(name, "second");
        label.setMinWidth(60);
        HBox box = new HBox(8, label, field);
        HBox.setHgrow(field, Priority.ALWAYS);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }
}
