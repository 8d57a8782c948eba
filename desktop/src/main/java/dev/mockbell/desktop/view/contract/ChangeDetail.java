package dev.mockbell.desktop.view.contract;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.Excerpt;
import dev.mockbell.desktop.model.ChangesModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.problem.Counted;
import dev.mockbell.upkeep.Touched;
import dev.mockbell.upkeep.Upkeep;
import dev.mockbell.upkeep.Way;
import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** One change: what it comes to, what it touches, what would be done, and the lines of the document. */
final class ChangeDetail extends VBox {
    /** Things touched that are listed; a change that touches more is chosen for all in one go. */
    private static final int MOST = 60;

    private final ChangesModel model;
    private final Upkeep upkeep;
    private final VBox inside = new VBox(0);
    private final VBox lines = new VBox(0);
    private ContractChange shown;

    ChangeDetail(ChangesModel model, Upkeep upkeep) {
        this.model = model;
        this.upkeep = upkeep;
        setId("change-detail");
        lines.setPadding(new Insets(8, 12, 10, 12));
        lines.setId("change-lines");
    }

    void showNothing() {
        getChildren().setAll(Parts.empty("No operation, message, type or address is another than the kept ones."));
    }

    void refresh() {
        if (shown != null) {
            show(shown);
        }
    }

    void show(ContractChange change) {
        shown = change;
        Label where = Parts.text(place(change), "second", "table-text");
        where.setMinWidth(0);
        HBox head = Parts.head(change.where(), Parts.spring(), where);
        Label sentence = Parts.text(change.sentence(model.sideProperty().get()));
        sentence.setId("change-sentence");
        sentence.setWrapText(true);
        sentence.setPadding(new Insets(8, 12, 8, 12));
        inside.getChildren().setAll(sentence);
        List<Touched> touched = upkeep.by(change);
        if (!touched.isEmpty()) {
            inside.getChildren().add(Parts.innerHead("What it touches, and what would be done"));
            touched.stream().limit(MOST).forEach(t -> inside.getChildren().add(row(t)));
            if (touched.size() > MOST) {
                inside.getChildren().add(padded(Parts.text("and " + (touched.size() - MOST) + " more", "third")));
            }
        }
        everything();
        lines.getChildren().clear();
        inside.getChildren().add(lines);
        ScrollPane scroll = new ScrollPane(inside);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        getChildren().setAll(head, Parts.tall(scroll));
        model.excerpt(change, found -> {
            if (shown == change) {
                found.forEach(l -> lines.getChildren().add(line(l)));
            }
        });
    }

    private static String place(ContractChange change) {
        Optional<Place> at = change.is().or(change::was);
        if (at.isEmpty() || at.get().line() < 1) {
            return "";
        }
        String document = at.get().document();
        String name = document.substring(document.lastIndexOf('/') + 1);
        String from = change.was()
                .filter(w ->
                        change.is().isPresent() && w.line() != change.is().get().line())
                .map(w -> w.line() + " → ")
                .orElse("");
        return name + " line " + from + at.get().line();
    }

    private Node row(Touched touched) {
        String kind = touched.kind().noun();
        Label name = Parts.text(
                Character.toUpperCase(kind.charAt(0)) + kind.substring(1) + " " + touched.name(),
                "strong",
                "table-text");
        name.setMinWidth(0);
        Label words = Parts.text("", "second", "table-text");
        words.setMinWidth(0);
        words.setWrapText(true);
        HBox ways = touched.ways().size() < 2
                ? new HBox()
                : Parts.segments(touched.ways(), Way::title, model.chosen(touched), way -> {
                    model.choose(touched, way);
                    say(words, touched);
                    everything();
                });
        say(words, touched);
        HBox first = new HBox(8, name, Parts.spring(), ways);
        first.setAlignment(Pos.CENTER_LEFT);
        VBox row = new VBox(2, first, words);
        row.setPadding(new Insets(5, 12, 6, 12));
        row.getStyleClass().add("ruled");
        return row;
    }

    private void say(Label words, Touched touched) {
        Way way = model.chosen(touched);
        words.setText(touched.words() + (way.equals(Way.LEAVE) ? "" : " → " + way.does()));
    }

    /** What will be done to all that any change touches. */
    private void everything() {
        inside.getChildren().removeIf(n -> "change-everything".equals(n.getId()));
        if (upkeep.touched().isEmpty()) {
            return;
        }
        long proposed = upkeep.proposals().size();
        String all = Upkeep.words(upkeep.touched());
        Label words = Parts.text(
                all + " touched in all. " + Counted.of(model.chosenCount(), "thing") + " will be changed with it, "
                        + (upkeep.touched().size() - model.chosenCount()) + " left.",
                "table-text");
        words.setWrapText(true);
        words.setId("change-sum");
        var doAll = Parts.link("Do all that is proposed (" + proposed + ")", "For every change", () -> chooseAll(true));
        doAll.setId("change-do-all");
        var leaveAll = Parts.link("Leave all", "Only the contract is taken over", () -> chooseAll(false));
        leaveAll.setId("change-leave-all");
        VBox box = new VBox(
                0, Parts.innerHead("Everything, in one go"), padded(new VBox(4, words, new HBox(8, doAll, leaveAll))));
        box.setId("change-everything");
        int at = inside.getChildren().indexOf(lines);
        inside.getChildren().add(at < 0 ? inside.getChildren().size() : at, box);
    }

    private void chooseAll(boolean proposed) {
        model.chooseAll(proposed);
        refresh();
    }

    private static <T extends javafx.scene.layout.Region> T padded(T node) {
        node.setPadding(new Insets(6, 12, 6, 12));
        return node;
    }

    private static Node line(Excerpt.Line line) {
        String sign = switch (line.kind()) {
            case SAME -> "  ";
            case NEW -> "+ ";
            case GONE -> "− ";
        };
        Label label = Parts.text(sign + line.text().replace("\t", "  "), "mono", "table-text");
        if (line.kind() != Excerpt.Kind.SAME) {
            label.getStyleClass().add(line.kind() == Excerpt.Kind.NEW ? "wanted" : "got");
        }
        label.setMinWidth(0);
        label.setMaxWidth(Double.MAX_VALUE);
        Parts.tip(label, "line " + line.number());
        return label;
    }
}
