package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.MessageEditor;
import dev.mockbell.desktop.view.message.SheetGrid;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.validation.Fit;
import java.io.File;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.collections.ObservableMap;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The request of the current case, by one of its faces. */
final class RequestPane extends VBox {
    private final CallModel model;
    private final StackPane body = new StackPane();
    private final RequestFoot foot;
    private final SheetGrid sheet;
    private final MessageEditor editor;
    private final RequestHeaders headers;
    private final SecurityFace security;
    private final PartsFace parts;
    private final XmlArea preview = new XmlArea(false);
    private static final List<Face> FACES =
            List.of(Face.SHEET, Face.XML, Face.HEADERS, Face.SECURITY, Face.PARTS, Face.WIRE);

    private static final String VIEW = "call.request";

    private final ObservableMap<String, String> views;
    private Face tab;
    private final HBox faces;

    /**
     * @param views how views were left
     * @param mending shows how the case is made to fit its contract again
     */
    RequestPane(CallModel model, ObservableMap<String, String> views, Consumer<String> tell, Consumer<Fit> mending) {
        this.model = model;
        this.views = views;
        this.tab = FACES.stream()
                .filter(face -> face.name().equals(views.get(VIEW)))
                .findFirst()
                .orElse(Face.SHEET);
        this.sheet = new SheetGrid("request-sheet", model.request(), Optional.of(model.values()), tell);
        this.editor = new MessageEditor(model.request(), model.flaws(), model.values(), tell);
        this.headers = new RequestHeaders(model, tell);
        this.parts = new PartsFace(model);
        this.security = new SecurityFace(model.security());
        this.foot = new RequestFoot(model, this::fromFile, editor::format, mending);
        this.faces = Parts.segments(FACES, Face::words, tab, t -> {
            tab = t;
            showFace();
        });
        faces.getStyleClass().add("faces");
        getStyleClass().add("panel");
        getChildren().addAll(Parts.head("Request", Parts.spring(), faces), Parts.tall(body), foot);
        model.request().troubleProperty().addListener((InvalidationListener) o -> showFoot());
        model.request().changesProperty().addListener((InvalidationListener) o -> showFoot());
        model.headers().troubleProperty().addListener((InvalidationListener) o -> showFoot());
        model.flaws().found().addListener((InvalidationListener) o -> showFoot());
        model.actions().misfits().addListener((InvalidationListener) o -> showFoot());
        model.request().xmlProperty().addListener((InvalidationListener) o -> lookAhead());
        model.preview().textProperty().addListener((o, was, now) -> preview.show(now));
        showFace();
    }

    /** Shows a face of the request. */
    void show(Face wanted) {
        Parts.choose(faces, wanted.words());
        tab = wanted;
        showFace();
    }

    /** Shows another case. */
    void show() {
        headers.show();
        security.show();
        if (tab == Face.PARTS) {
            parts.show();
        }
        showFoot();
        lookAhead();
    }

    private void lookAhead() {
        if (tab == Face.WIRE) {
            model.preview().refresh();
        }
    }

    /** Shows or hides what the contract says of the sheet's row; whether the keyboard is in the sheet at all. */
    boolean explain() {
        if (isInSheet()) {
            sheet.toggleNote();
            return true;
        }
        return false;
    }

    private boolean isInSheet() {
        return Parts.holdsKeyboard(sheet);
    }

    /** Whether the keyboard is in a value of the message, its header included. */
    boolean isInValue() {
        boolean sheet = isInSheet() || headers.edited().isPresent();
        return sheet && getScene().getFocusOwner().getParent() instanceof ValueField;
    }

    /** The message that the keyboard edits: a block of the header, or the body. */
    MessageModel edited() {
        return headers.edited().orElse(model.request());
    }

    /** Finds in what of the request is shown; whether there is a way to. */
    boolean find() {
        if (tab == Face.XML) {
            editor.find();
        } else if (tab == Face.SHEET) {
            sheet.showFilter();
        }
        return tab == Face.XML || tab == Face.SHEET;
    }

    private void showFace() {
        views.put(VIEW, tab.name());
        showFoot();
        switch (tab) {
            case XML -> {
                editor.show();
                body.getChildren().setAll(editor);
            }
            case HEADERS -> {
                headers.show();
                body.getChildren().setAll(headers);
            }
            case SECURITY -> {
                security.show();
                body.getChildren().setAll(security);
            }
            case PARTS -> {
                parts.show();
                body.getChildren().setAll(parts);
            }
            case WIRE -> {
                model.preview().refresh();
                body.getChildren().setAll(preview);
            }
            default -> body.getChildren().setAll(sheet);
        }
    }

    private void showFoot() {
        foot.show(tab);
    }

    private void fromFile() {
        File file = new FileChooser().showOpenDialog(getScene().getWindow());
        if (file != null) {
            editor.open(file);
        }
    }
}
