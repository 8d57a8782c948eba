package dev.mockbell.desktop.view;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.message.SheetRow;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.SimpleType;
import java.io.File;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.Base64;
import java.util.HexFormat;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.TextArea;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** A long value, or one of bytes, edited with room. Bytes are typed as what they encode, or taken from a file. */
final class ValueWindow {
    private static final long MOST_FILE = 32L << 20;

    private ValueWindow() {}

    static void show(Node within, SheetRow row, Consumer<String> done, Consumer<String> tell) {
        String primitive = row.simple().map(SimpleType::primitive).orElse("string");
        boolean hex = "hexBinary".equals(primitive);
        boolean binary = hex || "base64Binary".equals(primitive);
        TextArea area = new TextArea(row.value());
        area.setWrapText(true);
        area.getStyleClass().add("mono");
        area.setPrefRowCount(14);
        area.setId("long-value");
        VBox.setVgrow(area, Priority.ALWAYS);
        HBox tools = new HBox(8);
        if (binary) {
            tools.getChildren()
                    .addAll(
                            Parts.button(
                                    "From a file…",
                                    "The bytes of a file",
                                    () -> file(within, area, hex, tell),
                                    "quiet"),
                            Parts.button(
                                    "Encode the text",
                                    "Take what stands here for text",
                                    () -> area.setText(encoded(area.getText().getBytes(StandardCharsets.UTF_8), hex)),
                                    "quiet"),
                            Parts.button(
                                    "Decode to text",
                                    "Show the text that the bytes are",
                                    () -> decode(area, hex, tell),
                                    "quiet"));
        }
        var keep = Parts.button(
                "Keep",
                "",
                () -> {
                    Overlay.close(within);
                    done.accept(area.getText());
                },
                "primary");
        keep.setId("long-value-keep");
        tools.getChildren().addAll(Parts.spring(), keep);
        Overlay.show(within, new VBox(8, Parts.text(row.label() + "   " + row.type(), "strong"), area, tools), 640);
        area.requestFocus();
    }

    private static String encoded(byte[] bytes, boolean hex) {
        return hex
                ? HexFormat.of().withUpperCase().formatHex(bytes)
                : Base64.getEncoder().encodeToString(bytes);
    }

    private static void file(Node within, TextArea area, boolean hex, Consumer<String> tell) {
        File file = new FileChooser().showOpenDialog(within.getScene().getWindow());
        if (file == null) {
            return;
        }
        try {
            if (file.length() > MOST_FILE) {
                tell.accept(
                        file.getName() + " has " + file.length() + " bytes, more than the 32 MB that fit in a field.");
                return;
            }
            area.setText(encoded(Files.readAllBytes(file.toPath()), hex));
        } catch (IOException e) {
            tell.accept("The file " + file.getName() + " cannot be read: " + Problem.reason(e) + ".");
        }
    }

    private static void decode(TextArea area, boolean hex, Consumer<String> tell) {
        try {
            String text = area.getText().replaceAll("\\s", "");
            byte[] bytes =
                    hex ? HexFormat.of().parseHex(text) : Base64.getDecoder().decode(text);
            area.setText(StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString());
        } catch (IllegalArgumentException notEncoded) {
            tell.accept("This is not " + (hex ? "hexadecimal" : "base64") + ", so there is nothing to decode.");
        } catch (CharacterCodingException notText) {
            tell.accept("The bytes are not UTF-8 text; they stay encoded.");
        }
    }
}
