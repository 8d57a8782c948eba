package dev.mockbell.desktop.view;

import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;

/** Puts text on the clipboard. */
final class Copying {
    private Copying() {}

    static void text(String text) {
        ClipboardContent content = new ClipboardContent();
        content.putString(text);
        Clipboard.getSystemClipboard().setContent(content);
    }
}
