package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Masking;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import java.util.List;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** The ledger with its filters, and one exchange in full. */
public final class TrafficView extends VBox implements StationView {
    /** How a message is read: laid out, or to the byte. */
    private enum Reading {
        BODY("Body"),
        WIRE("Wire");

        private final String words;

        Reading(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }

    private static final String ANY = "any operation";

    private final TrafficModel model;
    private final CallModel call;
    private final MocksModel mocks;
    private final Desk desk;
    private final Grid<Listing> list = new Grid<>(26);
    private final HBox chips = new HBox(6);
    private final TextField text = new TextField();
    private final ComboBox<String> operation = new ComboBox<>();
    private final StackPane requestBody = new StackPane();
    private final StackPane responseBody = new StackPane();
    private final XmlArea request = new XmlArea(false);
    private final XmlArea response = new XmlArea(false);
    private final HBox requestHead = new HBox();
    private final HBox responseHead = new HBox();
    private final HBox foot = Parts.foot();
    private final Node masking;
    private Reading requestTab = Reading.BODY;
    private Reading responseTab = Reading.BODY;
    private boolean following;

    public TrafficView(Models models) {
        this.model = models.traffic();
        this.call = models.call();
        this.mocks = models.mocks();
        this.desk = models.desk();
        this.masking = Masking.toggle(desk);
        setId("traffic-station");
        getStyleClass().add("station");
        build();
        model.listings().addListener((InvalidationListener) o -> reselect());
        model.selectedProperty().addListener((InvalidationListener) o -> showExchange());
        model.filterProperty().addListener((InvalidationListener) o -> showChips());
        model.textsProperty().addListener((InvalidationListener) o -> showExchange());
        desk.maskedProperty().addListener((InvalidationListener) o -> showExchange());
        masking.setVisible(true);
        showChips();
        showExchange();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        if (model.selectedProperty().get() != null) {
            call.actions().open(model.selectedProperty().get());
        }
    }

    @Override
    public String acts() {
        return "edit and send again";
    }

    @Override
    public boolean find() {
        text.requestFocus();
        return true;
    }

    private void build() {
        HBox ways = Parts.<Optional<Way>>segments(
                List.of(Optional.<Way>empty(), Optional.of(Way.CALLED), Optional.of(Way.ANSWERED)),
                way -> way.map(w -> w == Way.CALLED ? "We called" : "We answered")
                        .orElse("All"),
                Optional.empty(),
                way -> filter(model.filterProperty().get().withWay(way.orElse(null))));
        ways.getStyleClass().add("boxed-segments");
        HBox results = Parts.<Optional<Outcome>>segments(
                List.of(
                        Optional.<Outcome>empty(),
                        Optional.of(Outcome.FINE),
                        Optional.of(Outcome.FAULT),
                        Optional.of(Outcome.FAILED)),
                result -> result.map(
                                r -> r.name().charAt(0) + r.name().substring(1).toLowerCase(java.util.Locale.ROOT))
                        .orElse("Any result"),
                Optional.empty(),
                result -> filter(model.filterProperty().get().withOutcome(result.orElse(null))));
        results.getStyleClass().add("boxed-segments");
        text.setPromptText("Filter by text, in bodies too");
        text.setId("traffic-filter");
        PauseTransition pause = new PauseTransition(Duration.millis(250));
        pause.setOnFinished(e -> filter(model.filterProperty().get().withText(text.getText())));
        text.textProperty().addListener((InvalidationListener) o -> pause.playFromStart());
        operation.setId("traffic-operation");
        operation.setPrefWidth(150);
        operation.setValue(ANY);
        operation.getItems().setAll(ANY);
        operation.setOnShowing(e -> {
            List<String> all = new java.util.ArrayList<>(
                    desk.places().stream().map(p -> p.key()).distinct().toList());
            all.add(0, ANY);
            operation.getItems().setAll(all);
        });
        operation.valueProperty().addListener((o, was, now) -> {
            if (now != null) {
                filter(model.filterProperty().get().withOperation(ANY.equals(now) ? null : now));
            }
        });
        Button answers = Parts.button(
                "Answer like these…",
                "Make a mock that answers as the exchanges that are listed were",
                () -> LearnForm.ask(
                        this,
                        mocks.learning(),
                        model.listings().stream().map(Listing::id).toList()));
        answers.setId("answer-like-these");
        answers.disableProperty().bind(javafx.beans.binding.Bindings.isEmpty(model.listings()));
        HBox head = new HBox(10, Parts.text("Traffic", "title"), ways, results, operation, Parts.wide(text), answers);
        head.setAlignment(Pos.CENTER_LEFT);
        chips.setAlignment(Pos.CENTER_LEFT);
        list.column("Time", 118, l -> Parts.text(Numbers.clockMillis(l.started()), "mono", "third"))
                .column("Way", 92, l -> Parts.text(l.way() == Way.CALLED ? "→ called" : "← answered", "table-text"))
                .column(
                        "Operation",
                        140,
                        l -> Parts.text(l.operation().isEmpty() ? "–" : l.operation(), "strong", "table-text"))
                .growing("Endpoint", l -> quiet(l.endpoint().replaceFirst("^https?://", "")))
                .number(
                        "Status",
                        56,
                        l -> Parts.text(
                                l.status() == 0 ? "–" : String.valueOf(l.status()),
                                "mono",
                                l.outcome() == Outcome.FINE
                                        ? "fine"
                                        : l.outcome() == Outcome.FAULT ? "fault" : "failed"))
                .number("ms", 56, l -> Parts.text(Numbers.whole(l.millis()), "mono"))
                .number("Sent", 72, l -> Parts.text(Numbers.bytes(l.sent()), "table-text"))
                .number("Received", 76, l -> Parts.text(Numbers.bytes(l.received()), "table-text"))
                .column("Result", 170, l -> {
                    Label label = Parts.marked(
                            Numbers.mark(l.outcome()), l.note().isEmpty() ? "fine" : l.note(), "table-text");
                    Parts.tip(label, l.note());
                    return label;
                })
                .column("From", 140, l -> quiet(l.origin()));
        list.setId("ledger");
        list.setItems(model.listings());
        list.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && !following) {
                model.select(now.id());
            }
        });
        list.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER && model.selectedProperty().get() != null) {
                call.actions().open(model.selectedProperty().get());
            }
        });
        VBox ledger = Parts.panel(Parts.tall(list));
        VBox.setVgrow(ledger, Priority.ALWAYS);
        requestHead.getStyleClass().add("panel-head");
        responseHead.getStyleClass().add("panel-head");
        VBox left = Parts.panel(requestHead, Parts.tall(requestBody));
        VBox right = Parts.panel(responseHead, Parts.tall(responseBody), foot);
        for (VBox side : List.of(left, right)) {
            side.setPrefWidth(10);
            // both the same, whatever stands in them
            side.setMinWidth(0);
            HBox.setHgrow(side, Priority.ALWAYS);
        }
        HBox pair = new HBox(10, left, right);
        pair.setMinHeight(300);
        pair.setMaxHeight(300);
        getChildren().addAll(head, chips, ledger, pair);
    }

    private static Label quiet(String words) {
        Label label = Parts.text(words, "second", "table-text");
        label.setMinWidth(0);
        return label;
    }

    private void filter(LedgerFilter filter) {
        model.filterProperty().set(filter);
    }

    private void showChips() {
        LedgerFilter f = model.filterProperty().get();
        chips.getChildren().clear();
        f.during()
                .ifPresent(span -> chips.getChildren()
                        .add(Parts.button(
                                span.from().map(Numbers::clock).orElse("the start") + " to "
                                        + span.until().map(Numbers::clock).orElse("now") + "  ×",
                                "Show all times again",
                                () -> filter(model.filterProperty().get().between(null, null)),
                                "chip",
                                "here")));
        list.setPlaceholder(Parts.empty(
                model.filterProperty().get().equals(LedgerFilter.ALL)
                        ? "Nothing yet. Everything that is called, checked or answered appears here."
                        : "No exchange passes the filter."));
        boolean any = !chips.getChildren().isEmpty();
        Parts.shown(chips, any);
    }

    /** The list grows on its own; the exchange looked at stays the one looked at. */
    private void reselect() {
        Exchange now = model.selectedProperty().get();
        if (now == null) {
            return;
        }
        following = true;
        list.list().getSelectionModel().clearSelection();
        for (Listing l : model.listings()) {
            if (l.id() == now.id()) {
                list.list().getSelectionModel().select(l);
                break;
            }
        }
        following = false;
    }

    private void showExchange() {
        Exchange e = model.selectedProperty().get();
        foot.getChildren().clear();
        if (e == null) {
            requestHead.getChildren().setAll(Parts.text("Request", "heading"));
            responseHead.getChildren().setAll(Parts.text("Response", "heading"));
            requestBody.getChildren().setAll(Parts.empty("Choose an exchange above to see it in full."));
            responseBody.getChildren().setAll(new Region());
            foot.getChildren().add(Parts.text("Nothing is chosen", "third"));
            return;
        }
        reselect();
        requestHead
                .getChildren()
                .setAll(
                        Parts.text(Numbers.clock(e.started()) + " · request", "heading"),
                        Parts.text(e.origin(), "second", "table-text"),
                        Parts.spring(),
                        Parts.segments(List.of(Reading.values()), Reading::words, requestTab, t -> {
                            requestTab = t;
                            showExchange();
                        }));
        Label result = Parts.marked(Numbers.mark(e.outcome()), e.note().isEmpty() ? "fine" : e.note(), "table-text");
        result.setMinWidth(0);
        Label time = Parts.text(Numbers.millis(e.timing().total() / 1e6) + " ms", "second", "table-text");
        time.setMinWidth(USE_PREF_SIZE);
        responseHead
                .getChildren()
                .setAll(
                        Parts.text("Response" + (e.status() > 0 ? " " + e.status() : ""), "heading"),
                        time,
                        result,
                        Parts.spring(),
                        Parts.segments(List.of(Reading.values()), Reading::words, responseTab, t -> {
                            responseTab = t;
                            showExchange();
                        }));
        requestBody.getChildren().setAll(request);
        responseBody.getChildren().setAll(response);
        request.show(model.text(e, false, requestTab == Reading.WIRE));
        response.show(
                e.response().isPresent() ? model.text(e, true, responseTab == Reading.WIRE) : "No answer: " + e.note());
        Button again = Parts.button(
                "Edit and send again",
                "Open it as a case in Call (Enter)",
                () -> call.actions().open(e));
        again.setId("send-again");
        Button answer = Parts.button(
                "Answer like it",
                "Make an answer of the mock for requests like this one",
                () -> LearnForm.ask(this, mocks.learning(), List.of(e.id())));
        answer.setId("answer-like");
        Button copy = Parts.button(
                "Copy request", "Copy the request's body, credentials masked", () -> model.copyOf(e, Copying::text));
        foot.getChildren().addAll(Parts.spring(), masking, copy, answer, again);
    }
}
