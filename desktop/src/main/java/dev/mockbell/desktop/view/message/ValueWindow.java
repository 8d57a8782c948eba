package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.model.FileContent;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.sheet.SheetRow;
import java.io.File;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/**
 * A long value, or one of bytes, edited with room. Bytes are typed as what they encode, or taken from a file. What is too
 * long for a field of text is shown in part, says so, and is kept whole.
 */
final class ValueWindow {
    /** In megabytes. */
    private static final int MOST_FILE = 32;

    /** A field of text lays all of it out, which takes seconds beyond this. */
    private static final int MOST_TYPED = 100_000;

    private static final int SHOWN = 4_000;

    private final Node within;
    private final MessageModel model;
    private final boolean hex;
    private final TextArea area = new TextArea();
    private final Label note = Parts.text("", "second", "table-text");
    private String value = "";

    private ValueWindow(Node within, MessageModel model, boolean hex) {
        this.within = within;
        this.model = model;
        this.hex = hex;
    }

    /** Shows the value of a row; {@code done} hears what was made of it. */
    static void show(Node within, SheetRow row, MessageModel model, Consumer<String> done) {
        String primitive = row.simple().map(SimpleType::primitive).orElse("string");
        boolean hex = "hexBinary".equals(primitive);
        new ValueWindow(within, model, hex).show(row, hex || "base64Binary".equals(primitive), done);
    }

    private void show(SheetRow row, boolean binary, Consumer<String> done) {
        area.setWrapText(true);
        area.getStyleClass().add("mono");
        area.setPrefRowCount(14);
        area.setId("long-value");
        VBox.setVgrow(area, Priority.ALWAYS);
        note.setId("long-value-note");
        note.setWrapText(true);
        note.managedProperty().bind(note.textProperty().isNotEmpty());
        put(row.value());
        HBox tools = new HBox(8);
        if (binary) {
            tools.getChildren()
                    .addAll(
                            Parts.button("From a file…", "The bytes of a file", this::file, "quiet"),
                            Parts.button("Encode the text", "Take what stands here for text", this::encode, "quiet"),
                            Parts.button("Decode to text", "Show the text that the bytes are", this::decode, "quiet"));
            model.parts().filter(p -> !hex).ifPresent(p -> tools.getChildren().add(1, asPart(p)));
            Parts.dropped(area, this::take);
        }
        var keep = Parts.button(
                "Keep",
                "",
                () -> {
                    Overlay.close(within);
                    done.accept(value());
                },
                "primary");
        keep.setId("long-value-keep");
        tools.getChildren().addAll(Parts.spring(), keep);
        Overlay.show(
                within, new VBox(8, Parts.text(row.label() + "   " + row.type(), "strong"), area, note, tools), 640);
        area.requestFocus();
    }

    private void put(String text) {
        value = text;
        boolean whole = text.length() <= MOST_TYPED;
        area.setText(whole ? text : text.substring(0, SHOWN) + "…");
        area.setEditable(whole);
        note.setText(
                whole ? "" : String.format("The first %,d of %,d characters. It is kept whole.", SHOWN, text.length()));
    }

    private String value() {
        return area.isEditable() ? area.getText() : value;
    }

    private void file() {
        chosen().ifPresent(this::take);
    }

    private Optional<Path> chosen() {
        return Optional.ofNullable(
                        new FileChooser().showOpenDialog(within.getScene().getWindow()))
                .map(File::toPath);
    }

    private void take(Path file) {
        make(() -> encoded(FileContent.bytes(file, MOST_FILE), hex));
    }

    private Button asPart(MessageModel.PartTaker taker) {
        Button part = Parts.button(
                "A file as a part…",
                "The file goes beside the envelope, and the value refers to it",
                () -> chosen().ifPresent(f -> taker.take(f, this::put)),
                "quiet");
        part.setId("value-as-part");
        return part;
    }

    private void encode() {
        String text = value();
        make(() -> encoded(text.getBytes(StandardCharsets.UTF_8), hex));
    }

    private void decode() {
        String text = value();
        make(() -> decoded(text, hex));
    }

    private void make(Callable<String> work) {
        model.elsewhere(work, this::put, problem -> note.setText(problem.getMessage()));
    }

    private static String encoded(byte[] bytes, boolean hex) {
        return hex
                ? HexFormat.of().withUpperCase().formatHex(bytes)
                : Base64.getEncoder().encodeToString(bytes);
    }

    private static String decoded(String text, boolean hex) {
        try {
            String tight = text.replaceAll("\\s", "");
            byte[] bytes =
                    hex ? HexFormat.of().parseHex(tight) : Base64.getDecoder().decode(tight);
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (IllegalArgumentException notEncoded) {
            throw Problem.input("This is not " + (hex ? "hexadecimal" : "base64"), null, "There is nothing to decode.");
        } catch (CharacterCodingException notText) {
            throw Problem.input("The bytes are not UTF-8 text", null, "They stay encoded.");
        }
    }
}
