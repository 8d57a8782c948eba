package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Attachment;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.HeaderDef;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.project.KeptContract;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The operation that is looked at: what it takes, gives and refuses, where that stands, and how it goes over the wire. */
final class AnatomyPane extends StackPane {
    private enum Side {
        ANATOMY("Anatomy"),
        SOURCE("Source"),
        WIRE("On the wire");

        private final String words;

        Side(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }

    private final Desk desk;
    private final Consumer<String> copy;
    private final Consumer<String> tap;
    private final ReadOnlyBooleanWrapper wide = new ReadOnlyBooleanWrapper();
    private OperationPlace place;
    private Side side = Side.ANATOMY;
    private SourcePane sources;
    private Contract sourcesOf;

    /** @param tap taps an address */
    AnatomyPane(Desk desk, Consumer<String> copy, Consumer<String> tap) {
        this.desk = desk;
        this.copy = copy;
        this.tap = tap;
        setId("anatomy");
        desk.contracts().samplesProperty().addListener((o, was, now) -> again());
    }

    /** What was being made when it was shown is there now. */
    private void again() {
        if (side == Side.WIRE && place != null && getScene() != null) {
            show(place);
        }
    }

    /** Whether what is shown needs room. */
    ReadOnlyBooleanProperty wideProperty() {
        return wide.getReadOnlyProperty();
    }

    boolean isShowingSource() {
        return side == Side.SOURCE;
    }

    /** Shows an operation; null shows nothing. */
    void show(OperationPlace now) {
        place = now;
        if (now == null) {
            getChildren().clear();
            return;
        }
        Node content = switch (side) {
            case SOURCE -> {
                SourcePane pane = sources(now.contract());
                pane.goTo(now.operation().place());
                yield pane;
            }
            case WIRE -> new WirePane(desk, now, copy);
            default -> parts(now);
        };
        frame(now.key(), content);
    }

    /** Shows a place in the documents of a contract. */
    void source(KeptContract contract, Place at) {
        side = Side.SOURCE;
        SourcePane pane = sources(contract);
        pane.goTo(at);
        frame(contract.title(), pane);
    }

    private SourcePane sources(KeptContract contract) {
        if (sources == null || sourcesOf != contract.contract()) {
            sources = new SourcePane(contract.contract().documents());
            sourcesOf = contract.contract();
        }
        return sources;
    }

    private void frame(String heading, Node content) {
        wide.set(side != Side.ANATOMY);
        HBox tabs = Parts.segments(List.of(Side.values()), Side::words, side, chosen -> {
            side = chosen;
            show(place);
        });
        VBox.setVgrow(content, Priority.ALWAYS);
        Label name = Parts.text(heading, "heading");
        name.setMinWidth(60);
        HBox head = new HBox(name, Parts.spring(), tabs);
        head.getStyleClass().add("panel-head");
        boolean callable = place != null
                && place.operation().callable()
                && place.ports().get(0).binding().protocol().soap();
        boolean byHttp = callable && place.ports().get(0).binding().transport().byHttp();
        Button call = Parts.button("Call it", "Go to the call station (Enter)", () -> desk.go(Station.CALL), "primary");
        Button mock = Parts.button("Mock it", "Go to the mock station", () -> desk.go(Station.MOCK));
        Button tap = Parts.button(
                "Tap it",
                "Stand between its clients and its endpoint, and record what passes",
                () -> this.tap.accept(
                        desk.endpoint(place.contract(), place.ports().get(0))));
        tap.setId("tap-it");
        Button sample = Parts.button(
                "Copy sample", "Copy a request as XML", () -> desk.contracts().sample(place, copy));
        List.of(call, sample).forEach(b -> b.setDisable(!callable));
        mock.setDisable(!byHttp);
        tap.setDisable(!byHttp);
        getChildren().setAll(new VBox(head, content, Parts.foot(call, mock, tap, sample)));
    }

    private void toSource(Place at) {
        source(place.contract(), at);
    }

    private Node parts(OperationPlace now) {
        VBox box = new VBox();
        Operation o = now.operation();
        if (!o.documentation().isEmpty()) {
            box.getChildren().add(words(o.documentation(), 10, "second"));
        }
        box.getChildren()
                .add(words(
                        o.soapAction().map(a -> "SOAPAction \"" + a + "\" · ").orElse("") + WirePane.style(o),
                        6,
                        "mono",
                        "second"));
        if (!o.needs().isEmpty()) {
            HBox tags = new HBox(4, Parts.text("Needs", "second", "table-text"));
            o.needs().forEach(n -> tags.getChildren().add(Parts.text(n, "tag", "bronze")));
            tags.setPadding(new Insets(0, 12, 8, 12));
            box.getChildren().add(tags);
        }
        section(box, "Takes", now, o.input());
        section(box, "Gives", now, o.output());
        faults(box, now);
        ScrollPane scroll = new ScrollPane(box);
        scroll.setFitToWidth(true);
        return scroll;
    }

    private static Label words(String text, int top, String... styles) {
        Label words = Parts.text(text, styles);
        words.setWrapText(true);
        words.setMinHeight(USE_PREF_SIZE);
        words.setPadding(new Insets(top, 12, 6, 12));
        return words;
    }

    private void section(VBox box, String name, OperationPlace now, Optional<MessageDef> message) {
        Optional<MessageOutline> outline =
                message.map(m -> MessageOutline.of(now.contract().contract(), m));
        Optional<ElementDecl> root = outline.flatMap(MessageOutline::root);
        String of = root.map(r -> " · " + r.name().getLocalPart()).orElse("");
        HBox head = Parts.innerHead(name + of);
        Optional<Place> at = root.flatMap(ElementDecl::place).or(() -> message.map(MessageDef::place));
        at.ifPresent(p -> head.getChildren()
                .addAll(Parts.spring(), Parts.link("Source", "Where this stands in the contract", () -> toSource(p))));
        box.getChildren().add(head);
        if (root.isEmpty()) {
            box.getChildren().add(line("nothing", "third"));
        } else {
            box.getChildren().add(new AnatomyTree(root.get(), this::toSource));
        }
        for (HeaderDef header : message.map(MessageDef::headers).orElse(List.of())) {
            String part = header.part()
                    .element()
                    .map(e -> e.getLocalPart())
                    .orElse(header.part().name());
            String faults = header.faults().isEmpty() ? "" : ", with a header fault";
            Label words = line("header " + part + faults, "second");
            words.setOnMouseClicked(e -> toSource(header.place()));
            box.getChildren().add(words);
        }
        for (Attachment beside : message.map(MessageDef::attachments).orElse(List.of())) {
            box.getChildren().add(line("attachment " + beside.part() + ", " + beside.words(), "second"));
        }
    }

    private static Label line(String text, String style) {
        Label label = Parts.text(text, style, "table-text");
        label.setPadding(new Insets(5, 10, 5, 10));
        return label;
    }

    private void faults(VBox box, OperationPlace now) {
        List<FaultDef> faults = now.operation().faults();
        if (faults.isEmpty()) {
            return;
        }
        box.getChildren().add(Parts.innerHead("Faults"));
        for (FaultDef fault : faults) {
            Optional<ElementDecl> element =
                    MessageOutline.of(now.contract().contract(), fault).root();
            Label name = Parts.marked(
                    Mark.FAULT, fault.element().map(e -> e.getLocalPart()).orElse(fault.name()), "table-text", "fault");
            Label fields = Parts.text(element.map(OutlineWords::fields).orElse(""), "second", "table-text");
            fields.setMinWidth(0);
            var at = Parts.link("Source", "Where this fault stands in the contract", () -> toSource(fault.place()));
            at.setMinWidth(USE_PREF_SIZE);
            at.setPadding(new Insets(0, 6, 0, 6));
            HBox row = new HBox(8, name, Parts.spring(), fields, at);
            row.setPadding(new Insets(5, 10, 5, 10));
            box.getChildren().add(row);
        }
    }
}
