package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.model.WrittenModel;
import dev.mockbell.desktop.model.WrittenModel.Made;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.written.WrittenContract;
import java.util.List;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What others will read of a written contract, live: its schema, its WSDL, a sample; and what is said of the whole. */
final class WrittenDocumentsPane extends VBox {
    private static final String XSD = "XSD";
    private static final String WSDL = "WSDL";
    private static final String SAMPLE = "Sample";
    private static final String SETTINGS = "Settings";

    private final WrittenModel model;
    private final StackPane body = new StackPane();
    private final XmlArea area = new XmlArea(false);
    private final Label whole = Parts.text("", "second", "table-text");
    private String view = XSD;
    private String shown = "";
    private int row;

    WrittenDocumentsPane(WrittenModel model) {
        this.model = model;
        setId("written-documents");
        HBox views = Parts.segments(List.of(XSD, WSDL, SAMPLE, SETTINGS), v -> v, view, this::choose);
        whole.setWrapText(true);
        getChildren()
                .addAll(Parts.head("As it will be read", Parts.spring(), views), Parts.tall(body), Parts.foot(whole));
        body.getChildren().setAll(area);
        area.margins();
    }

    private void choose(String other) {
        view = other;
        if (SETTINGS.equals(other)) {
            body.getChildren().setAll(settings());
        } else {
            body.getChildren().setAll(area);
            show(row);
        }
    }

    /** Shows what is there, and where the row stands in it. */
    void show(int at) {
        row = at;
        Made made = model.madeProperty().get();
        if (made == null) {
            return;
        }
        WrittenContract contract = model.contract();
        whole.setText(contract.namespace() + " · "
                + (contract.soap11()
                        ? contract.soap12() ? "SOAP 1.1 and 1.2" : "SOAP 1.1"
                        : contract.soap12() ? "SOAP 1.2" : "no SOAP")
                + " · " + contract.address());
        switch (view) {
            case XSD -> {
                text(made.documents().xsd());
                List<Integer> lines = made.documents().lines(at);
                if (!lines.isEmpty()) {
                    area.goTo(lines.get(0));
                }
            }
            case WSDL -> text(made.documents().wsdl());
            case SAMPLE ->
                model.operation(at)
                        .ifPresentOrElse(
                                o -> model.samples(o, sample -> {
                                    if (SAMPLE.equals(view)) {
                                        text(sample);
                                    }
                                }),
                                () -> text(""));
            default -> {
                // settings are typed, not shown
            }
        }
    }

    private void text(String text) {
        if (!text.equals(shown)) {
            shown = text;
            area.show(text);
        }
    }

    private Form settings() {
        Form form = new Form();
        WrittenContract now = model.contract();
        form.text(
                "Namespace",
                "written-namespace",
                now.namespace(),
                "urn:…",
                text -> model.settings(c -> c.withNamespace(text)));
        form.text(
                "Service",
                "written-service",
                now.service(),
                "a name",
                text -> model.settings(c -> c.withService(text)));
        form.text(
                "Address",
                "written-address",
                now.address(),
                "http://…",
                text -> model.settings(c -> c.withAddress(text)));
        CheckBox first = version("SOAP 1.1", "written-11", now.soap11());
        CheckBox second = version("SOAP 1.2", "written-12", now.soap12());
        first.setOnAction(e -> model.settings(c -> c.speaking(first.isSelected(), second.isSelected())));
        second.setOnAction(e -> model.settings(c -> c.speaking(first.isSelected(), second.isSelected())));
        form.row("Speaks", first, second);
        form.note(
                "Document/literal, wrapped. Where it speaks both versions, SOAP 1.2 has its own port at the address with -12 behind it.");
        return form;
    }

    private static CheckBox version(String words, String id, boolean on) {
        CheckBox box = new CheckBox(words);
        box.setId(id);
        box.setSelected(on);
        return box;
    }
}
