package dev.mockbell.desktop.view.mock;

import dev.mockbell.contract.FaultDef;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.project.KeptContract;
import java.util.List;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Insets;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** A mock: its operations, the answers of one of them, and what it was asked lately. */
public final class MockView extends StackPane implements StationView {
    private final MocksModel model;
    private final Desk desk;
    private final HBox head = new HBox();
    private final Grid<String> operations = new Grid<>(26);
    private final ObservableList<String> keys = FXCollections.observableArrayList();
    private final Grid<Integer> answers = new Grid<>(28);
    private final ObservableList<Integer> indices = FXCollections.observableArrayList();
    private final Grid<MockEvent> latest = new Grid<>(25);
    private final VBox why = new VBox(8);
    private final HBox answersHead = Parts.head("Answers");
    private final AnswerPane answer;
    private final Node station;
    private boolean showing;

    public MockView(Models models) {
        this.model = models.mocks();
        this.desk = models.desk();
        this.answer = new AnswerPane(models);
        setId("mock-station");
        station = build();
        InvalidationListener all = o -> Refocus.now(this, this::show);
        model.contractProperty().addListener(all);
        model.operationProperty().addListener(all);
        model.answerProperty().addListener(all);
        InvalidationListener whenShown = o -> {
            if (desk.stationProperty().get() == dev.mockbell.desktop.model.Station.MOCK) {
                show();
            }
        };
        model.versionProperty().addListener(whenShown);
        desk.stationProperty().addListener(whenShown);
        desk.projectProperty().addListener(all);
        show();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        model.startOrStop();
    }

    @Override
    public String acts() {
        return "start or stop the mock";
    }

    private Node build() {
        operations
                .growing("Operation", k -> Parts.text(k, "table-text"))
                .number(
                        "Hits",
                        60,
                        k -> Parts.text(
                                model.host().map(h -> Numbers.whole(h.hits(k))).orElse("–"), "mono"));
        operations.setItems(keys);
        operations.setId("mock-operations");
        operations.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && !showing) {
                model.operationProperty().set(now);
                model.answerProperty().set(0);
            }
        });
        answers.column(
                        "",
                        34,
                        i -> Parts.text(
                                at(i).map(a -> a.conditional() ? String.valueOf(i + 1) : "–")
                                        .orElse(""),
                                "third",
                                "table-text"))
                .growing(
                        "When",
                        i -> at(i).filter(MockAnswer::conditional)
                                .map(a -> (Node) Parts.text(a.when(), "mono"))
                                .orElseGet(() -> Parts.text("otherwise", "third", "table-text")))
                .column("Answer", 190, i -> at(i).map(this::kind).orElse(null))
                .column(
                        "After",
                        76,
                        i -> Parts.text(
                                at(i).map(a -> a.delayMillis() == 0 ? "at once" : a.delayMillis() + " ms")
                                        .orElse(""),
                                "third",
                                "table-text"))
                .number("Hits", 56, i -> Parts.text(hits(i), "mono"));
        answers.setItems(indices);
        answers.setId("mock-answers");
        answers.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && !showing) {
                model.answerProperty().set(now);
            }
        });
        latest.column("Time", 76, e -> Parts.text(Numbers.clock(e.at()), "mono", "third"))
                .growing(
                        "Operation",
                        e -> Parts.text(
                                e.operation().isEmpty() ? "unmatched" : e.operation(),
                                "table-text",
                                e.operation().isEmpty() ? "failed" : "strong"))
                .column("Answered by", 108, e -> {
                    Label label = Parts.text(e.title(), "table-text", e.matched() ? "second" : "failed");
                    Parts.tip(label, e.why());
                    return label;
                });
        latest.setPlaceholder(Parts.empty("Requests appear here as they come."));
        VBox left = Parts.panel(Parts.head("Operations"), Parts.tall(operations));
        left.setMinWidth(208);
        left.setMaxWidth(208);
        answers.setMinHeight(150);
        answers.setMaxHeight(150);
        VBox middle = Parts.panel(answersHead, answers, Parts.tall(answer));
        HBox.setHgrow(middle, Priority.ALWAYS);
        why.setPadding(new Insets(10, 12, 10, 12));
        VBox right = Parts.panel(
                Parts.head("Latest requests"), Parts.tall(latest), Parts.innerHead("Why nothing matched"), why);
        right.setMinWidth(300);
        right.setMaxWidth(300);
        HBox columns = new HBox(10, left, middle, right);
        VBox.setVgrow(columns, Priority.ALWAYS);
        VBox box = new VBox(head, columns);
        box.getStyleClass().add("station");
        head.getStyleClass().setAll("station-head");
        return box;
    }

    private Optional<MockAnswer> at(int index) {
        List<MockAnswer> all = model.answers();
        return index >= 0 && index < all.size() ? Optional.of(all.get(index)) : Optional.empty();
    }

    private String hits(int index) {
        return model.host()
                .map(h -> h.answerHits(model.operationProperty().get()))
                .filter(l -> index < l.size())
                .map(l -> Numbers.whole(l.get(index)))
                .orElse("–");
    }

    private Node kind(MockAnswer a) {
        HBox box = new HBox(6);
        box.getChildren().setAll(a.content().accept(new Kind(a.title())));
        box.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return box;
    }

    /** Each kind of content in a cell. */
    private record Kind(String title) implements AnswerContent.Visitor<List<Label>> {
        @Override
        public List<Label> message(AnswerContent.Message content) {
            return List.of(Parts.text(title.equals("sample") ? "sample" : "message", "tag", "fine"));
        }

        @Override
        public List<Label> fault(AnswerContent.Fault content) {
            return List.of(Parts.text("fault", "tag", "fault"), Parts.text(title, "table-text"));
        }
    }

    private void show() {
        KeptContract contract = model.contractProperty().get();
        if (contract == null) {
            getChildren()
                    .setAll(Parts.empty(
                            "A mock stands in for a service. Add a contract first; one action then makes its mock."));
            return;
        }
        if (!getChildren().contains(station)) {
            getChildren().setAll(station);
        }
        showing = true;
        showHead(contract);
        List<String> all = List.copyOf(contract.contract().operations().keySet());
        if (!all.equals(keys)) {
            keys.setAll(all);
        } else {
            operations.refresh();
        }
        operations.list().getSelectionModel().select(model.operationProperty().get());
        List<Integer> wanted = java.util.stream.IntStream.range(
                        0, model.answers().size())
                .boxed()
                .toList();
        if (!wanted.equals(indices)) {
            indices.setAll(wanted);
        } else {
            answers.refresh();
        }
        answers.list()
                .getSelectionModel()
                .select(Integer.valueOf(model.answerProperty().get()));
        showAnswersHead(contract);
        answer.show();
        showLatest();
        showing = false;
    }

    private void showHead(KeptContract contract) {
        head.getChildren().setAll(Parts.text(contract.title() + " mock", "title"));
        Optional<MockHost> host = model.host();
        if (host.isPresent()) {
            MockHost h = host.get();
            Label up = Parts.text("up since " + Numbers.clockShort(h.since()), "tag", "fine");
            up.setId("mock-up");
            TextField address =
                    new TextField(h.addresses().values().stream().findFirst().orElse(h.base()));
            address.setEditable(false);
            address.setPrefWidth(270);
            address.setId("mock-address");
            address.getStyleClass().addAll("mono", "reading");
            Button wsdl = Parts.link("?wsdl", "Copy the address of the mock's own WSDL", () -> {
                Copying.text(h.wsdl());
                desk.tell(dev.mockbell.desktop.model.Notice.plain("Copied " + h.wsdl()));
            });
            Button stop = Parts.button("Stop", "Stop answering", model::startOrStop);
            stop.setId("mock-stop");
            head.getChildren()
                    .addAll(
                            up,
                            address,
                            wsdl,
                            Parts.spring(),
                            Parts.text(
                                    Numbers.whole(h.answered()) + " answered · " + h.unmatched() + " unmatched"
                                            + (h.unrecorded() > 0 ? " · " + h.unrecorded() + " not on the ledger" : ""),
                                    "second"),
                            stop);
        } else {
            int port = model.plan().map(MockPlan::port).orElse(MockPlan.USUAL_PORT);
            Button start = Parts.button(
                    "Start the mock", "Answer on port " + port + " (Ctrl+Enter)", model::startOrStop, "primary");
            start.setId("mock-start");
            head.getChildren().addAll(Parts.text("down · port " + port, "tag"), Parts.spring(), start);
        }
    }

    private void showAnswersHead(KeptContract contract) {
        Button add = Parts.button("Add an answer", "For requests that meet a condition", () -> {});
        add.setId("add-answer");
        add.setOnAction(e -> answerMenu(contract).show(add, Side.BOTTOM, 0, 2));
        answersHead
                .getChildren()
                .setAll(
                        Parts.text("Answers to " + model.operationProperty().get(), "heading"),
                        Parts.text("first match wins", "second", "table-text"),
                        Parts.spring(),
                        add);
    }

    private ContextMenu answerMenu(KeptContract contract) {
        ContextMenu menu = new ContextMenu();
        MenuItem message = new MenuItem("A message");
        message.setOnAction(e -> model.addMessage());
        menu.getItems().add(message);
        for (FaultDef fault : contract.contract()
                .operation(model.operationProperty().get(), null)
                .map(b -> b.operation().faults())
                .orElse(List.of())) {
            MenuItem item = new MenuItem(
                    "Fault " + fault.element().map(q -> q.getLocalPart()).orElse(fault.name()));
            item.setOnAction(e -> model.addFault(fault));
            menu.getItems().add(item);
        }
        return menu;
    }

    private void showLatest() {
        List<MockEvent> events = model.host().map(MockHost::latest).orElse(List.of());
        latest.items().setAll(events);
        why.getChildren().clear();
        Optional<MockEvent> unmatched =
                events.stream().filter(e -> !e.matched()).findFirst();
        Label words = unmatched
                .map(e -> Parts.marked(Mark.FAILED, Numbers.clock(e.at()) + " · " + e.why()))
                .orElseGet(() -> Parts.text(
                        events.isEmpty() ? "No request so far." : "The latest requests were all matched.", "third"));
        words.setWrapText(true);
        why.getChildren().add(words);
    }
}
