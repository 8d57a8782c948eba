package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.Condition;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.project.Settings.KeptFilter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** What is asked of the ledger: typed, chosen, and as chips that are taken away one by one. */
final class FilterBar extends VBox {
    private static final String HINT = "Words such as operation:Book  status:5xx  result:fault  took:>200ms  sent:>10kB"
            + "  way:tapped  caller:10.0.0.7  since:10m  time:10:15..10:20  word:NF-07  where:\"$request//nights > 3\"\n"
            + "A hyphen before one says not. Anything else is text to find. Enter makes chips.";

    private final TrafficModel model;
    private final TextField text = new TextField();
    private final FlowPane chips = new FlowPane(6, 6);
    private final Label flaw = Parts.text("", "failed", "table-text");
    private final HBox ways;
    private final HBox results;

    FilterBar(TrafficModel model, Node... actions) {
        this.model = model;
        setSpacing(8);
        text.setPromptText("Find text, or ask status:5xx  took:>200ms  operation:…");
        text.setId("traffic-filter");
        Parts.tip(text, HINT);
        PauseTransition pause = new PauseTransition(Duration.millis(250));
        pause.setOnFinished(e -> model.type(text.getText()));
        text.textProperty().addListener((InvalidationListener) o -> pause.playFromStart());
        text.setOnAction(e -> {
            pause.stop();
            model.type(text.getText());
            if (model.keepTyped()) {
                text.clear();
            }
        });
        text.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE && !text.getText().isEmpty()) {
                text.clear();
                e.consume();
            }
        });
        Button named = Parts.button("Filters", "Filters that have a name", () -> {});
        named.setId("traffic-named");
        named.setOnAction(e -> menu().show(named, Side.BOTTOM, 0, 2));
        HBox head = new HBox(10, Parts.text("Traffic", "title"), Parts.wide(text), named);
        head.getChildren().addAll(actions);
        head.setAlignment(Pos.CENTER_LEFT);
        ways = Parts.<Optional<Way>>segments(
                List.of(
                        Optional.<Way>empty(),
                        Optional.of(Way.CALLED),
                        Optional.of(Way.ANSWERED),
                        Optional.of(Way.TAPPED)),
                FilterBar::words,
                Optional.empty(),
                way -> filter(model.filterProperty().get().withWay(way.orElse(null))));
        results = Parts.<Optional<Outcome>>segments(
                List.of(
                        Optional.<Outcome>empty(),
                        Optional.of(Outcome.FINE),
                        Optional.of(Outcome.FAULT),
                        Optional.of(Outcome.FAILED)),
                FilterBar::named,
                Optional.empty(),
                result -> filter(model.filterProperty().get().withOutcome(result.orElse(null))));
        for (HBox box : List.of(ways, results)) {
            box.getStyleClass().add("boxed-segments");
            box.setMinWidth(USE_PREF_SIZE);
            box.setMaxHeight(USE_PREF_SIZE);
        }
        chips.setAlignment(Pos.CENTER_LEFT);
        chips.setId("traffic-chips");
        HBox row = new HBox(10, ways, results, Parts.wide(chips));
        row.setAlignment(Pos.TOP_LEFT);
        flaw.setId("traffic-flaw");
        flaw.setWrapText(true);
        flaw.textProperty().bind(model.flawProperty());
        flaw.visibleProperty().bind(model.flawProperty().isNotEmpty());
        flaw.managedProperty().bind(flaw.visibleProperty());
        getChildren().addAll(head, flaw, row);
        model.filterProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    private static String words(Optional<Way> way) {
        return way.map(w -> switch (w) {
                    case CALLED -> "We called";
                    case ANSWERED -> "We answered";
                    case TAPPED -> "Tapped";
                })
                .orElse("All");
    }

    private static String named(Optional<Outcome> result) {
        return result.map(r -> r.name().charAt(0) + r.name().substring(1).toLowerCase(Locale.ROOT))
                .orElse("Any result");
    }

    /** Goes to the field. */
    void find() {
        text.requestFocus();
        text.selectAll();
    }

    private void filter(LedgerFilter filter) {
        model.filterProperty().set(filter);
    }

    private void show() {
        LedgerFilter now = model.filterProperty().get();
        chips.getChildren().clear();
        for (LedgerFilter.Term term : now.terms()) {
            if (!isSegment(now, term)) {
                Button chip = Parts.button(
                        words(term) + "  ×",
                        "Ask this no longer",
                        () -> filter(model.filterProperty().get().without(term)),
                        "chip",
                        "here");
                chip.setMaxWidth(420);
                chips.getChildren().add(chip);
            }
        }
        if (now.terms().size() > 1) {
            Button all = Parts.link("Show all", "Ask nothing any more", () -> filter(LedgerFilter.ALL));
            all.setId("traffic-all");
            chips.getChildren().add(all);
        }
        Parts.choose(ways, words(single(now, "way").map(c -> ((Condition.ByWay) c).way())));
        Parts.choose(results, named(single(now, "result").map(c -> ((Condition.ByResult) c).outcome())));
    }

    /** The only term of a kind, where it is not asked not to be. */
    private static Optional<Condition> single(LedgerFilter filter, String kind) {
        List<LedgerFilter.Term> of = filter.terms().stream()
                .filter(t -> t.condition().kind().equals(kind))
                .toList();
        return of.size() == 1 && !of.get(0).not() ? Optional.of(of.get(0).condition()) : Optional.empty();
    }

    private static boolean isSegment(LedgerFilter filter, LedgerFilter.Term term) {
        String kind = term.condition().kind();
        return ("way".equals(kind) || "result".equals(kind))
                && single(filter, kind).isPresent();
    }

    private static String words(LedgerFilter.Term term) {
        String not = term.not() ? "not " : "";
        if (term.condition() instanceof Condition.During during) {
            return not + during.from().map(Moments::toTheSecond).orElse("the start") + " to "
                    + during.until().map(Moments::toTheSecond).orElse("now");
        }
        if (term.condition() instanceof Condition.Holds holds) {
            return not + (holds.whole() ? "word “" : "“") + holds.text() + "”";
        }
        return not + term.condition().kind() + " " + term.condition().value();
    }

    private ContextMenu menu() {
        ContextMenu menu = new ContextMenu();
        for (KeptFilter kept : model.named()) {
            item(menu, kept.name(), () -> model.ask(kept));
        }
        if (!model.named().isEmpty()) {
            menu.getItems().add(new SeparatorMenuItem());
        }
        MenuItem name = item(menu, "Name what is asked now…", this::name);
        name.setDisable(model.effective().isEmpty());
        if (!model.named().isEmpty()) {
            Menu forget = new Menu("Forget");
            model.named().forEach(kept -> {
                MenuItem one = new MenuItem(kept.name());
                one.setOnAction(e -> model.forget(kept));
                forget.getItems().add(one);
            });
            menu.getItems().add(forget);
        }
        return menu;
    }

    private static MenuItem item(ContextMenu menu, String words, Runnable does) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> does.run());
        menu.getItems().add(item);
        return item;
    }

    private void name() {
        Form form = new Form();
        form.note("It is kept with the project: " + model.effective().typed());
        TextField name = Form.field("filter-name", "", "what you call it");
        form.row("Name", name);
        Asking.ask(
                this,
                "A filter with a name",
                form,
                "filter",
                () -> Asking.needed(name.getText(), "The name"),
                model::name);
    }
}
