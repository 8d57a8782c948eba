package dev.mockbell.desktop.view.traffic;

import dev.mockbell.compare.Difference;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.ExchangeUses;
import dev.mockbell.desktop.model.HarModel;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Masking;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.ledger.Figures;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.LedgerState;
import dev.mockbell.ledger.Listing;
import dev.mockbell.suite.Case;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.beans.InvalidationListener;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The ledger with what is asked of it, the relays that fill it, and one exchange in full. */
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

    private final Models models;
    private final TrafficModel model;
    private final CallModel call;
    private final CheckModel check;
    private final MocksModel mocks;
    private final Desk desk;
    private final HarModel har;
    private final FilterBar filters;
    private final LedgerList list;
    private final HBox sums = Parts.foot();
    private final StackPane requestBody = new StackPane();
    private final StackPane responseBody = new StackPane();
    private final XmlArea request = new XmlArea(false);
    private final XmlArea response = new XmlArea(false);
    private final HBox requestHead = new HBox();
    private final HBox responseHead = new HBox();
    private final HBox foot = Parts.foot();
    private final Node masking;
    private final Label doing = Parts.text("", "second", "table-text");
    private final Button stopHar;
    private final Button stopSearch;
    private final Label figures = Parts.text("", "second", "table-text");
    private final Region between = Parts.spring();
    private Reading requestTab = Reading.BODY;
    private Reading responseTab = Reading.BODY;

    public TrafficView(Models models) {
        this.models = models;
        this.model = models.traffic();
        this.call = models.call();
        this.check = models.check();
        this.mocks = models.mocks();
        this.desk = models.desk();
        this.har = models.har();
        this.masking = Masking.toggle(desk);
        this.list = new LedgerList(model);
        this.filters = new FilterBar(model, relays(), more());
        this.stopHar = Parts.link("Stop", "Stop it; no half file is left", har::stop);
        this.stopSearch = Parts.link("Stop", "What was found stays", model::stop);
        figures.setId("traffic-figures");
        setId("traffic-station");
        getStyleClass().add("station");
        build();
        model.listings().addListener((InvalidationListener) o -> {
            list.reselect(model.selectedProperty().get());
            showPlaceholder();
        });
        model.selectedProperty().addListener((InvalidationListener) o -> showExchange());
        model.twoProperty().addListener((InvalidationListener) o -> showExchange());
        model.filterProperty().addListener((InvalidationListener) o -> showPlaceholder());
        model.textsProperty().addListener((InvalidationListener) o -> showExchange());
        for (var shown : List.of(
                model.figuresProperty(), model.searchingProperty(), model.versionProperty(), har.progressProperty())) {
            shown.addListener((InvalidationListener) o -> showSums());
        }
        desk.maskedProperty().addListener((InvalidationListener) o -> showExchange());
        masking.setVisible(true);
        showPlaceholder();
        showSums();
        showExchange();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        if (!models.taps().waiting().isEmpty()) {
            models.taps().waiting().get(0).held().letThrough();
        } else if (model.selectedProperty().get() != null) {
            call.actions().open(model.selectedProperty().get());
        }
    }

    @Override
    public String acts() {
        return models.taps().waiting().isEmpty() ? "edit and send again" : "let through what waits longest";
    }

    @Override
    public boolean find() {
        filters.find();
        return true;
    }

    private Button relays() {
        Button button = Parts.button("Tap…", "Stand between clients and a service, and record what passes", () -> {});
        button.setId("tap");
        button.setOnAction(e -> {
            ContextMenu menu = new ContextMenu();
            item(menu, "Tap an endpoint…", () -> TapForm.tap(this, models.taps()));
            item(menu, "Forward proxy…", () -> TapForm.proxy(this, models.taps()));
            menu.show(button, Side.BOTTOM, 0, 2);
        });
        return button;
    }

    private Button more() {
        Button button =
                Parts.button("Use these…", "Make something of the exchanges that are listed or chosen", () -> {});
        button.setId("use-these");
        button.setOnAction(e -> useMenu().show(button, Side.BOTTOM, 0, 2));
        return button;
    }

    private ContextMenu useMenu() {
        ContextMenu menu = new ContextMenu();
        item(
                menu,
                "Answer like these…",
                () -> LearnForm.ask(
                        this,
                        mocks.learning(),
                        list.chosenOrAll().stream().map(Listing::id).toList()));
        item(menu, "Write all of them to a HAR file…", this::write);
        menu.getItems().add(new SeparatorMenuItem());
        item(menu, "Take in a HAR file…", this::read);
        menu.getItems().add(new SeparatorMenuItem());
        item(menu, "How much is kept…", () -> RetentionForm.ask(this, model));
        return menu;
    }

    private static void item(ContextMenu menu, String words, Runnable does) {
        item(menu.getItems(), words, does);
    }

    private static void item(List<MenuItem> into, String words, Runnable does) {
        MenuItem item = new MenuItem(words);
        item.setMnemonicParsing(false);
        item.setOnAction(e -> does.run());
        into.add(item);
    }

    private FileChooser chooser(String title) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle(title);
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("HAR", "*.har"));
        return chooser;
    }

    private void write() {
        FileChooser chooser = chooser("Write exchanges to a HAR file");
        chooser.setInitialFileName("exchanges.har");
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            har.write(model.effective(), file.toPath());
        }
    }

    private void read() {
        File file = chooser("Take in a HAR file").showOpenDialog(getScene().getWindow());
        if (file != null) {
            har.read(file.toPath());
        }
    }

    private void dropped(Path file) {
        if (file.getFileName().toString().toLowerCase(Locale.ROOT).endsWith(".har")) {
            har.read(file);
        }
    }

    private void build() {
        list.onOpen(l -> {
            Exchange now = model.selectedProperty().get();
            if (now != null && now.id() == l.id()) {
                call.actions().open(now);
            }
        });
        list.onBelongs(this::belongs);
        VBox ledger = Parts.panel(Parts.tall(list.node()), sums);
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
        pair.setMinHeight(270);
        pair.setMaxHeight(270);
        getChildren().addAll(new HoldBand(models.taps()), filters, new TapsStrip(models.taps()), ledger, pair);
        Parts.dropped(this, this::dropped);
    }

    /** Goes to the case, suite or load that an exchange belongs to. */
    private void belongs(Listing line) {
        String[] of = line.ties().of().split(" ");
        if (of.length > 1 && "case".equals(of[0])) {
            desk.project().cases().stream()
                    .filter(c -> c.id().equals(of[1]))
                    .findFirst()
                    .ifPresentOrElse(
                            c -> {
                                desk.place(c.contract(), c.operation()).ifPresent(desk.placeProperty()::set);
                                call.open(c);
                                desk.go(Station.CALL);
                            },
                            () -> gone("case"));
        } else if (of.length > 1 && "suite".equals(of[0])) {
            desk.project().suites().stream()
                    .filter(s -> s.id().equals(of[1]))
                    .findFirst()
                    .ifPresentOrElse(
                            s -> {
                                check.open(s);
                                desk.go(Station.CHECK);
                            },
                            () -> gone("suite"));
        } else {
            desk.go(Station.LOAD);
        }
    }

    private void gone(String what) {
        desk.tell(Notice.plain("The " + what + " is not in the project any more."));
    }

    private void showPlaceholder() {
        list.node()
                .setPlaceholder(Parts.empty(
                        model.effective().equals(LedgerFilter.ALL)
                                ? "Nothing yet. Everything that is called, checked, answered or tapped appears here."
                                : "No exchange passes the filter."));
    }

    /** Figures change as often as something passes; what can be pressed stays meanwhile. */
    private void showSums() {
        List<Node> all = new ArrayList<>();
        if (!har.progressProperty().get().isEmpty()) {
            doing.setText(har.progressProperty().get());
            all.addAll(List.of(doing, stopHar));
        } else if (model.searchingProperty().get()) {
            doing.setText("Looking through the ledger…");
            all.addAll(List.of(doing, stopSearch));
        }
        Figures f = model.figuresProperty().get();
        figures.setText(
                f.count() == 0
                        ? "Nothing to add up"
                        : Numbers.whole(f.count()) + (f.count() == 1 ? " exchange" : " exchanges") + " · "
                                + Numbers.whole(f.failed()) + " not fine · half within "
                                + Numbers.millis(f.p50() / 1e6) + " ms, 95 in 100 within "
                                + Numbers.millis(f.p95() / 1e6) + " ms · " + Numbers.bytes(f.bytes()));
        all.addAll(List.of(figures, between));
        LedgerState state = model.state();
        state.trouble().ifPresent(t -> all.add(Parts.text(t, "failed", "table-text")));
        if (state.bare() > 0) {
            all.add(Parts.text(Numbers.whole(state.bare()) + " without bodies", "second", "table-text"));
        }
        if (state.lost() > 0) {
            all.add(Parts.text(Numbers.whole(state.lost()) + " not recorded", "failed", "table-text"));
        }
        Parts.keep(sums, all);
    }

    /** Two side by side: what differs in the requests, and in the answers. */
    private void showTwo(TrafficModel.Two two) {
        String both = "number " + two.before().id() + " and " + two.now().id();
        requestHead
                .getChildren()
                .setAll(
                        Parts.text(differing(two.requests().size(), "request"), "heading"),
                        Parts.text(both, "second", "table-text"));
        responseHead
                .getChildren()
                .setAll(
                        Parts.text(differing(two.responses().size(), "answer"), "heading"),
                        Parts.text(both, "second", "table-text"));
        requestBody.getChildren().setAll(differences(two, two.requests()));
        responseBody.getChildren().setAll(differences(two, two.responses()));
        foot.getChildren().add(Parts.text(String.join(" ", two.unlike()), "second", "table-text"));
        foot.getChildren()
                .addAll(
                        Parts.spring(),
                        Parts.button(
                                "Compare no more",
                                "Look at one again",
                                () -> model.twoProperty().set(null)));
    }

    private static String differing(int count, String what) {
        return count == 0
                ? "The " + what + "s are alike"
                : "The " + what + "s differ in " + Numbers.whole(count) + (count == 1 ? " place" : " places");
    }

    private static Node differences(TrafficModel.Two two, List<Difference> differences) {
        Grid<Difference> grid = new Grid<>(24);
        grid.growing("Where", d -> cell(d.path()))
                .column("In " + two.before().id(), 130, d -> cell(d.before()))
                .column("In " + two.now().id(), 130, d -> cell(d.now()));
        grid.items().setAll(differences);
        grid.setPlaceholder(Parts.empty("Nothing differs."));
        return grid;
    }

    private static Label cell(String text) {
        Label label = Parts.text(text, "mono", "table-text");
        label.setMinWidth(0);
        Parts.tip(label, text);
        return label;
    }

    /** What an exchange can be kept as; what it cannot be kept as is said with why. */
    private ContextMenu keeping(Exchange e) {
        ContextMenu menu = new ContextMenu();
        item(menu, "Answer of the mock…", () -> LearnForm.ask(this, mocks.learning(), List.of(e.id())));
        item(menu, "Case, to edit and send", () -> call.actions().open(e));
        List<Case> cases = models.uses().cases(e);
        Menu baseline = new Menu("Baseline of");
        cases.forEach(
                c -> item(baseline.getItems(), c.title(), () -> models.uses().baseline(c, e)));
        List<ExchangeUses.Table> tables = models.uses().tables(e);
        Menu row = new Menu("Row of known values of");
        tables.forEach(t -> item(row.getItems(), t.words(), () -> models.uses().row(t, e)));
        for (Menu of : List.of(baseline, row)) {
            if (of.getItems().isEmpty()) {
                MenuItem none = new MenuItem(
                        of == baseline
                                ? "No case of this operation is kept yet"
                                : "No step that calls this operation has known values");
                none.setDisable(true);
                of.getItems().add(none);
            }
            menu.getItems().add(of);
        }
        return menu;
    }

    private void showExchange() {
        Exchange e = model.selectedProperty().get();
        foot.getChildren().clear();
        if (model.twoProperty().get() != null) {
            showTwo(model.twoProperty().get());
            return;
        }
        if (e == null) {
            requestHead.getChildren().setAll(Parts.text("Request", "heading"));
            responseHead.getChildren().setAll(Parts.text("Response", "heading"));
            requestBody.getChildren().setAll(Parts.empty("Choose an exchange above to see it in full."));
            responseBody.getChildren().setAll(new Region());
            foot.getChildren().add(Parts.text("Nothing is chosen", "third"));
            return;
        }
        list.reselect(e);
        Label origin = Parts.text(
                e.ties().caller().isEmpty()
                        ? e.origin()
                        : e.origin() + " · from " + e.ties().caller(),
                "second",
                "table-text");
        origin.setMinWidth(0);
        requestHead
                .getChildren()
                .setAll(
                        Parts.text(Moments.toTheSecond(e.started()) + " · request", "heading"),
                        origin,
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
        Button answer =
                Parts.button("Keep it as…", "An answer of the mock, a baseline, a row of known values", () -> {});
        answer.setId("keep-as");
        answer.setOnAction(click -> keeping(e).show(answer, Side.TOP, 0, 0));
        Button copy = Parts.button(
                "Copy request", "Copy the request's body, credentials masked", () -> model.copyOf(e, Copying::text));
        for (Button known : List.of(again, answer)) {
            known.setDisable(e.operation().isEmpty());
        }
        foot.getChildren().addAll(Parts.spring(), masking, copy, answer, again);
    }
}
