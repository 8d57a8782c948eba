package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.SourceDocument;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.xml.Place;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The documents of a contract as they were fetched: tabs, find, and jumps from a name to its definition and back. */
final class SourcePane extends VBox {
    private static final Pattern REFERENCE = Pattern.compile(
            "\\b(?:type|element|ref|base|itemType|message|binding|substitutionGroup|interface|refer)\\s*=\\s*[\"']([^\"']+)[\"']");

    /** Columns that are visible without scrolling sideways. */
    private static final int FAR_RIGHT = 70;

    /** A position that was left: a document and a line. */
    private record Spot(int document, int line) {}

    private final List<SourceDocument> documents;
    private final XmlArea area = new XmlArea(false);
    private final HBox tabs = new HBox(2);
    private final ToggleGroup group = new ToggleGroup();
    private final TextField find = new TextField();
    private final Label found = Parts.text("", "second", "small");
    private final Deque<Spot> left = new ArrayDeque<>();
    private final Button back;
    private int shown = -1;

    SourcePane(List<SourceDocument> documents) {
        this.documents = documents;
        setId("source-pane");
        for (int i = 0; i < documents.size(); i++) {
            tabs.getChildren().add(tab(i));
        }
        ScrollPane strip = new ScrollPane(tabs);
        strip.setFitToHeight(true);
        tabs.setPadding(new Insets(3, 8, 0, 8));
        strip.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        strip.setHbarPolicy(
                documents.size() > 3 ? ScrollPane.ScrollBarPolicy.AS_NEEDED : ScrollPane.ScrollBarPolicy.NEVER);
        strip.setMinHeight(documents.size() > 3 ? 46 : 34);
        find.setId("source-find");
        find.setPromptText("Find (Ctrl+F)");
        find.setPrefWidth(180);
        find.textProperty().addListener((o, was, now) -> count());
        find.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                next(!e.isShiftDown());
            }
        });
        back = Parts.button("Back", "Where you came from (Alt+Left)", this::back);
        back.setId("source-back");
        back.setDisable(true);
        Button definition = Parts.button(
                "Definition", "Go to what the line refers to (Ctrl+B, or Ctrl and a click)", this::definition);
        definition.setId("source-definition");
        HBox bar = new HBox(
                6,
                find,
                Parts.button("↑", "The one before (Shift+Enter)", () -> next(false)),
                Parts.button("↓", "The next one (Enter)", () -> next(true)),
                found,
                Parts.spring(),
                definition,
                back);
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.setPadding(new Insets(6, 10, 6, 10));
        getChildren().addAll(strip, bar, Parts.tall(area));
        addEventFilter(KeyEvent.KEY_PRESSED, this::keys);
        area.addEventFilter(MouseEvent.MOUSE_CLICKED, e -> {
            if (e.isControlDown()) {
                definition();
            }
        });
    }

    private ToggleButton tab(int index) {
        SourceDocument document = documents.get(index);
        String uri = document.uri();
        ToggleButton tab = new ToggleButton(uri.substring(uri.lastIndexOf('/') + 1));
        tab.getStyleClass().setAll("segment");
        tab.setToggleGroup(group);
        tab.setMinWidth(USE_PREF_SIZE);
        tab.setId("source-tab-" + index);
        tab.setOnAction(e -> {
            leave();
            show(index);
        });
        Parts.tip(
                tab,
                uri + "\n" + document.kind().name() + ", " + Numbers.bytes(document.bytes().length) + "\nSHA-256 "
                        + document.sha256());
        return tab;
    }

    private void keys(KeyEvent e) {
        if (e.isShortcutDown() && e.getCode() == KeyCode.F) {
            find.requestFocus();
            find.selectAll();
            e.consume();
        } else if (e.isShortcutDown() && e.getCode() == KeyCode.B) {
            definition();
            e.consume();
        } else if (e.isAltDown() && e.getCode() == KeyCode.LEFT) {
            back();
            e.consume();
        }
    }

    private void show(int index) {
        if (index != shown) {
            shown = index;
            area.show(documents.get(index).text());
            count();
        }
        ((ToggleButton) tabs.getChildren().get(index)).setSelected(true);
    }

    private int line() {
        return area.area().getCurrentParagraph() + 1;
    }

    private void leave() {
        if (shown >= 0) {
            left.push(new Spot(shown, line()));
            back.setDisable(false);
        }
    }

    /** Brings a place into view; the one before can be gone back to. */
    void goTo(Place place) {
        int index = 0;
        for (int i = 0; i < documents.size(); i++) {
            if (documents.get(i).uri().equals(place.document())) {
                index = i;
            }
        }
        leave();
        show(index);
        area.goTo(Math.max(1, place.line()));
    }

    private void back() {
        if (!left.isEmpty()) {
            Spot spot = left.pop();
            show(spot.document());
            area.goTo(spot.line());
            back.setDisable(left.isEmpty());
        }
    }

    /** The line that the caret is in, and the document, for tests. */
    String where() {
        return documents.get(shown).uri() + ":" + line();
    }

    private void count() {
        String wanted = find.getText();
        if (wanted.isEmpty()) {
            found.setText("");
            return;
        }
        String text = area.text().toLowerCase(Locale.ROOT);
        String lower = wanted.toLowerCase(Locale.ROOT);
        int count = 0;
        for (int at = text.indexOf(lower); at >= 0; at = text.indexOf(lower, at + lower.length())) {
            count++;
        }
        found.setText(count == 0 ? "not in this document" : count + " found");
    }

    private void next(boolean forward) {
        String wanted = find.getText().toLowerCase(Locale.ROOT);
        String text = area.text().toLowerCase(Locale.ROOT);
        if (wanted.isEmpty() || !text.contains(wanted)) {
            return;
        }
        int at;
        if (forward) {
            at = text.indexOf(wanted, area.area().getSelection().getEnd());
            at = at < 0 ? text.indexOf(wanted) : at;
        } else {
            int before = area.area().getSelection().getStart() - 1;
            at = before < 0 ? -1 : text.lastIndexOf(wanted, before);
            at = at < 0 ? text.lastIndexOf(wanted) : at;
        }
        var code = area.area();
        code.selectRange(at, at + wanted.length());
        code.showParagraphInViewport(code.getCurrentParagraph());
        if (code.getCaretColumn() > FAR_RIGHT) {
            code.requestFollowCaret();
        } else {
            // lines are easier to read from their beginning
            code.scrollXToPixel(0);
        }
    }

    /** Goes to the definition of the name that the caret stands on, or of the first one that its line refers to. */
    private void definition() {
        var code = area.area();
        String line = code.getText(code.getCurrentParagraph());
        int column = code.getCaretColumn();
        Matcher reference = REFERENCE.matcher(line);
        String name = null;
        while (reference.find()) {
            boolean here = column >= reference.start() && column <= reference.end();
            if (name == null || here) {
                name = reference.group(1).strip();
            }
        }
        if (name == null) {
            found.setText("this line refers to nothing");
            return;
        }
        String local = name.substring(name.indexOf(':') + 1);
        Optional<Place> place = defined(local);
        place.ifPresentOrElse(p -> goTo(p), () -> found.setText(local + " is defined in none of the documents"));
    }

    private Optional<Place> defined(String local) {
        Pattern declaration = Pattern.compile(
                "<(?:[\\w.-]+:)?(?:element|complexType|simpleType|group|attributeGroup|attribute|message|portType|binding|interface)\\b[^>]*?\\bname\\s*=\\s*[\"']"
                        + Pattern.quote(local) + "[\"']");
        Place nested = null;
        for (SourceDocument document : documents) {
            String text = document.text();
            Matcher m = declaration.matcher(text);
            while (m.find()) {
                int line = (int) text.substring(0, m.start())
                                .chars()
                                .filter(c -> c == '\n')
                                .count()
                        + 1;
                Place place = new Place(document.uri(), line, 1);
                boolean element = m.group().contains(":element") || m.group().startsWith("<element");
                if (!element || m.group().indexOf(" type=") < 0 || nested != null) {
                    return Optional.of(place);
                }
                nested = place;
            }
        }
        return Optional.ofNullable(nested);
    }
}
