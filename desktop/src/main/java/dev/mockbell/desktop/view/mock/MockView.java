package dev.mockbell.desktop.view.mock;

import dev.mockbell.contract.FaultDef;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.Readiness;
import dev.mockbell.mock.RequestRules;
import dev.mockbell.mock.Trial;
import dev.mockbell.project.KeptContract;
import dev.mockbell.wire.jms.JmsAddress;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
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
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** A mock: its operations, the answers of one of them, and what it was asked lately. */
public final class MockView extends StackPane implements StationView {
    private final MocksModel model;
    private final Desk desk;
    private final HBox head = new HBox();
    private final Label counted = Parts.text("", "second");
    private final Grid<String> operations = new Grid<>(26);
    private final ObservableList<String> keys = FXCollections.observableArrayList();
    private final Grid<Integer> answers = new Grid<>(28);
    private final ObservableList<Integer> indices = FXCollections.observableArrayList();
    private final Grid<MockEvent> latest = new Grid<>(25);
    private final VBox why = new VBox(8);
    private final HBox answersHead = Parts.head("Answers");
    private final AnswerPane answer;
    private final Node station;
    private final VBox foot = new VBox(6);
    private final Button settings;
    private final MemoryPane memory;
    private final OtherMocks others;
    private boolean showing;

    public MockView(Models models) {
        this.model = models.mocks();
        this.desk = models.desk();
        this.answer = new AnswerPane(models);
        this.memory = new MemoryPane(models);
        this.others = new OtherMocks(models);
        this.settings = Parts.button(
                "Settings…",
                "Address, what requests are checked for, limits, what is remembered",
                () -> SettingsForm.ask(this, models),
                "quiet");
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
    public boolean undo(boolean redo, boolean typing) {
        return !typing && (redo ? model.edits().redo() : model.edits().undo());
    }

    private boolean isConcealed(String key) {
        return model.plan().filter(p -> p.conduct().concealed().contains(key)).isPresent();
    }

    private Node operationName(String key) {
        boolean concealed = isConcealed(key);
        Label name = Parts.text(key, "table-text", concealed ? "third" : "table-text");
        if (concealed) {
            Parts.tip(name, "Concealed: left out of the contract served, and refused (Space exposes it)");
        }
        Optional<Readiness.Remark> remark =
                model.remarks().stream().filter(r -> r.operation().equals(key)).findFirst();
        HBox box = new HBox(6, name);
        box.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        if (concealed) {
            box.getChildren().add(Parts.text("concealed", "tag"));
        } else {
            remark.ifPresent(r -> {
                Node mark = (r.kind() == Readiness.Kind.BROKEN ? Mark.FAILED : Mark.FAULT).node();
                Parts.tip(mark, r.text());
                box.getChildren().add(mark);
            });
        }
        return box;
    }

    /** Shows what would be answered now to the request that is chosen. */
    private void tryLatest() {
        MockEvent chosen = latest.list().getSelectionModel().getSelectedItem();
        if (chosen != null && chosen.request().isThere()) {
            TrialForm.ask(this, model, Optional.of(chosen.request()));
        }
    }

    /** How many answers were given for it; without any it answers with its sample. */
    private Node answerCount(String key) {
        Optional<Integer> given =
                model.plan().filter(p -> p.decides(key)).map(p -> p.of(key).size());
        Label label = Parts.text(
                given.map(String::valueOf).orElse("sample"), given.isPresent() ? "mono" : "third", "table-text");
        Parts.tip(label, given.isPresent() ? "" : "It answers with the sample of its response");
        return label;
    }

    private String hits(String key) {
        return isConcealed(key)
                ? "–"
                : model.host().map(h -> Numbers.whole(h.hits(key))).orElse("–");
    }

    private void concealOrExpose() {
        String key = model.operationProperty().get();
        if (key != null) {
            model.edits().conceal(key, !isConcealed(key));
        }
    }

    /** The keys of the answers; while someone types they are the field's. */
    private void key(KeyEvent e) {
        int index = model.answerProperty().get();
        if (e.getTarget() instanceof TextInputControl || at(index).isEmpty()) {
            return;
        }
        Runnable does = null;
        if (e.getCode() == KeyCode.DELETE && model.answers().size() > 1) {
            does = () -> model.edits().remove(index);
        } else if (e.isControlDown() && e.getCode() == KeyCode.D) {
            does = () -> model.edits().duplicate(index);
        } else if (e.isAltDown() && (e.getCode() == KeyCode.UP || e.getCode() == KeyCode.DOWN)) {
            does = () -> model.edits().move(index, e.getCode() == KeyCode.UP ? -1 : 1);
        }
        if (does != null) {
            does.run();
            e.consume();
        }
    }

    @Override
    public String acts() {
        return "start or stop the mock";
    }

    private Node build() {
        operations
                .growing("Operation", this::operationName)
                .number("Answers", 68, this::answerCount)
                .number("Hits", 42, k -> Parts.text(hits(k), "mono", isConcealed(k) ? "third" : "mono"));
        operations.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.SPACE) {
                concealOrExpose();
                e.consume();
            }
        });
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
                                .map(a -> (Node)
                                        Parts.text(AnswerWords.when(a), a.when().isBlank() ? "table-text" : "mono"))
                                .orElseGet(() -> Parts.text("otherwise", "third", "table-text")))
                .column("Answer", 210, i -> at(i).map(MockView::kind).orElse(null))
                .column(
                        "After",
                        86,
                        i -> Parts.text(at(i).map(AnswerWords::after).orElse(""), "third", "table-text"))
                .number("Hits", 56, i -> Parts.text(hits(i), "mono"));
        answers.setItems(indices);
        answers.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        answers.setId("mock-answers");
        answers.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && !showing) {
                model.answerProperty().set(now);
            }
        });
        latest.column("Time", 76, e -> Parts.text(Moments.toTheSecond(e.at()), "mono", "third"))
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
        latest.setId("mock-latest");
        latest.list().setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                tryLatest();
            }
        });
        latest.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                tryLatest();
            }
        });
        latest.setPlaceholder(Parts.empty("Requests appear here as they come."));
        settings.setId("mock-settings");
        VBox left = Parts.panel(Parts.head("Operations"), Parts.tall(operations), others, foot);
        left.setMinWidth(244);
        left.setMaxWidth(244);
        answers.setMinHeight(150);
        answers.setMaxHeight(150);
        VBox middle = Parts.panel(answersHead, answers, Parts.tall(answer));
        HBox.setHgrow(middle, Priority.ALWAYS);
        why.setPadding(new Insets(10, 12, 10, 12));
        memory.show();
        VBox right = Parts.panel(
                Parts.head("Latest requests"), Parts.tall(latest), Parts.innerHead("Why nothing matched"), why, memory);
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

    private static Node kind(MockAnswer a) {
        HBox box = new HBox(6);
        box.getChildren().setAll(AnswerWords.kind(a));
        box.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        return box;
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
        showAnswersHead();
        showFoot();
        others.show();
        memory.show();
        answer.show();
        showLatest();
        showing = false;
    }

    /** A button that is made anew while it is pressed would not hear of it, and requests come all the time. */
    private void showHead(KeptContract contract) {
        Optional<MockHost> host = model.host();
        int port = model.plan().map(MockPlan::port).orElse(MockPlan.USUAL_PORT);
        host.ifPresent(h -> counted.setText(Numbers.whole(h.answered()) + " answered · " + h.unmatched() + " unmatched"
                + (h.unrecorded() > 0 ? " · " + h.unrecorded() + " not on the ledger" : "")));
        Object now = List.of(contract.title(), host, host.flatMap(MockHost::queues), port);
        if (!Parts.isNews(head, now)) {
            return;
        }
        head.getChildren().setAll(Parts.text(contract.title() + " mock", "title"));
        if (host.isPresent()) {
            MockHost h = host.get();
            Label up = Parts.text("up since " + Moments.toTheMinute(h.since()), "tag", "fine");
            up.setId("mock-up");
            TextField address = new TextField(h.addresses().values().stream()
                    .findFirst()
                    .or(() -> h.queues()
                            .flatMap(q -> q.addresses().stream().findFirst())
                            .map(JmsAddress::requestUri))
                    .orElse(h.base()));
            address.setEditable(false);
            address.setPrefWidth(270);
            address.setId("mock-address");
            address.setAccessibleText("Where the mock listens");
            address.getStyleClass().addAll("mono", "reading");
            Label queue = Parts.text(
                    h.queues()
                            .filter(q ->
                                    !h.addresses().isEmpty() || q.addresses().size() > 1)
                            .map(q -> "and "
                                    + q.addresses().stream()
                                            .map(JmsAddress::title)
                                            .collect(Collectors.joining(", ")))
                            .orElse(""),
                    "second");
            queue.setId("mock-queue");
            Button wsdl = Parts.link("?wsdl", "Copy the address of the mock's own WSDL", () -> {
                Copying.text(h.wsdl());
                desk.tell(dev.mockbell.desktop.model.Notice.plain("Copied " + h.wsdl()));
            });
            Button index = Parts.link("index page", "Copy the address of the page that shows what there is", () -> {
                Copying.text(h.index());
                desk.tell(dev.mockbell.desktop.model.Notice.plain("Copied " + h.index()));
            });
            Button stop = Parts.button("Stop", "Stop answering", model::startOrStop);
            stop.setId("mock-stop");
            head.getChildren().addAll(up, address, queue, wsdl, index, Parts.spring(), counted, stop);
        } else {
            Button start = Parts.button(
                    "Start the mock", "Answer on port " + port + " (Ctrl+Enter)", model::startOrStop, "primary");
            start.setId("mock-start");
            head.getChildren().addAll(Parts.text("down · port " + port, "tag"), Parts.spring(), start);
        }
    }

    private void showFoot() {
        Conduct conduct = model.plan().map(MockPlan::conduct).orElse(Conduct.USUAL);
        RequestRules rules = conduct.rules();
        Object now = List.of(conduct, String.valueOf(model.operationProperty().get()));
        if (!Parts.isNews(foot, now)) {
            return;
        }
        Form form = new Form();
        form.setSpacing(5);
        form.slimToggle(
                "mock-schema",
                "Requests must be valid",
                rules.schema(),
                on -> model.edits().conduct(c -> c.with(c.rules().checkingSchema(on))));
        form.slimToggle(
                "mock-action",
                "The action must be right",
                rules.action(),
                on -> model.edits().conduct(c -> c.with(c.rules().checkingAction(on))));
        form.slimToggle(
                "mock-conceal",
                "Conceal " + model.operationProperty().get(),
                isConcealed(model.operationProperty().get()),
                on -> concealOrExpose());
        form.slimToggle(
                "mock-once",
                "Stop after one answer",
                conduct.stopAfter() == 1,
                on -> model.edits().conduct(c -> c.stoppingAfter(on ? 1 : 0)));
        foot.getChildren().setAll(form, settings);
        foot.getStyleClass().setAll("panel-foot-tall");
    }

    private void showAnswersHead() {
        String operation = String.valueOf(model.operationProperty().get());
        if (!Parts.isNews(answersHead, operation)) {
            return;
        }
        Button attempt = Parts.button(
                "Try…",
                "What would be answered to a request, without a client",
                () -> TrialForm.ask(this, model, Optional.empty()));
        attempt.setId("mock-try");
        Button add = Parts.button("Add an answer", "For requests that meet a condition", () -> {});
        add.setId("add-answer");
        add.setOnAction(e -> answerMenu(model.contractProperty().get()).show(add, Side.BOTTOM, 0, 2));
        answersHead
                .getChildren()
                .setAll(
                        Parts.text("Answers to " + operation, "heading"),
                        Parts.text("first match wins", "second", "table-text"),
                        Parts.spring(),
                        attempt,
                        add);
    }

    private ContextMenu answerMenu(KeptContract contract) {
        ContextMenu menu = new ContextMenu();
        item(menu, "A message", model.edits()::addMessage);
        for (FaultDef fault : contract.contract()
                .operation(model.operationProperty().get(), null)
                .map(b -> b.operation().faults())
                .orElse(List.of())) {
            item(
                    menu,
                    "Fault " + fault.element().map(q -> q.getLocalPart()).orElse(fault.name()),
                    () -> model.edits().addFault(fault));
        }
        menu.getItems().add(new SeparatorMenuItem());
        item(
                menu,
                "A fault of another kind",
                () -> model.edits().add("fault", new AnswerContent.Fault("Something went wrong", "")));
        item(menu, "The request back", () -> model.edits().add("request back", new AnswerContent.RequestBack()));
        item(menu, "A file", () -> model.edits().add("file", new AnswerContent.FileBody("", "")));
        item(menu, "No body", () -> model.edits().add("empty", new AnswerContent.Nothing()));
        item(
                menu,
                "Pass on to the live endpoint",
                () -> model.edits().add("live endpoint", AnswerContent.PassOn.to("")));
        return menu;
    }

    private static void item(ContextMenu menu, String words, Runnable does) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> does.run());
        menu.getItems().add(item);
    }

    private void showLatest() {
        List<MockEvent> events = model.host().map(MockHost::latest).orElse(List.of());
        if (!List.copyOf(latest.items()).equals(events)) {
            // what is chosen stays chosen while others come
            MockEvent chosen = latest.list().getSelectionModel().getSelectedItem();
            latest.items().setAll(events);
            if (chosen != null && events.contains(chosen)) {
                latest.list().getSelectionModel().select(chosen);
            }
        }
        Optional<MockEvent> unmatched =
                events.stream().filter(e -> !e.matched()).findFirst();
        Optional<Trial.Verdict> nearest = unmatched.flatMap(model::trial).flatMap(Trial::nearest);
        if (!Parts.isNews(why, List.of(unmatched, events.isEmpty(), nearest))) {
            return;
        }
        why.getChildren().clear();
        Label words = unmatched
                .map(e -> Parts.marked(Mark.FAILED, Moments.toTheSecond(e.at()) + " · " + e.why()))
                .orElseGet(() -> Parts.text(
                        events.isEmpty() ? "No request so far." : "The latest requests were all matched.", "third"));
        words.setWrapText(true);
        why.getChildren().add(words);
        unmatched.filter(e -> e.request().isThere()).ifPresent(e -> showNearest(e, nearest));
    }

    /** The answer that came nearest, and what can be done about it. */
    private void showNearest(MockEvent event, Optional<Trial.Verdict> nearest) {
        nearest.ifPresent(n -> {
            Label near = Parts.text(
                    "Nearest: answer " + (n.answer() + 1) + "; but " + String.join(", ", n.why()) + ".", "second");
            near.setWrapText(true);
            near.setId("mock-nearest");
            why.getChildren().add(near);
        });
        Button anyway =
                Parts.button("Answer it", "Make an answer for requests like this one", () -> model.answerFor(event));
        anyway.setId("mock-answer-it");
        Button attempt = Parts.button(
                "Try it…",
                "See it, change it, and what would be answered",
                () -> TrialForm.ask(this, model, Optional.of(event.request())));
        attempt.setId("mock-try-it");
        HBox actions = new HBox(8);
        if (!event.operation().isEmpty()) {
            actions.getChildren().add(anyway);
        }
        actions.getChildren().add(attempt);
        why.getChildren().add(actions);
    }
}
