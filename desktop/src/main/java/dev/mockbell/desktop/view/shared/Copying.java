package dev.mockbell.desktop.view.shared;

import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;

/** Puts text on the clipboard. */
public final class Copying {
    private Copying() {}

    /** Puts a text on the clipboard. */
    public static void text(String text) {
        ClipboardContent content = new ClipboardContent();
        content.putString(text);
        Clipboard.getSystemClipboard().setContent(content);
    }
}
