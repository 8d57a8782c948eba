package dev.mockbell.desktop.view.shared;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.problem.Problem;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Asks for something in a form; what cannot be meant is said in it, and nothing is lost of what was typed. */
public final class Asking {
    private static final double WIDTH = 640;

    private Asking() {}

    /**
     * Asks over the window that shows {@code within}.
     *
     * @param id stands before the names of its parts: {@code id-keep}, {@code id-flaw}
     * @param typed makes what is meant; its {@link Problem} is said in the form
     * @param then hears it, once the form is gone
     */
    public static <T> void ask(Node within, String title, Form form, String id, Supplier<T> typed, Consumer<T> then) {
        ask(within, title, form, id, "Keep", typed, then);
    }

    /** As {@link #ask(Node, String, Form, String, Supplier, Consumer)}; the button says what it {@code does}. */
    public static <T> void ask(
            Node within, String title, Form form, String id, String does, Supplier<T> typed, Consumer<T> then) {
        Label flaw = Parts.text("", "failed", "table-text");
        flaw.setId(id + "-flaw");
        flaw.setWrapText(true);
        flaw.setVisible(false);
        flaw.managedProperty().bind(flaw.visibleProperty());
        Runnable done = () -> {
            try {
                T made = typed.get();
                Overlay.close(within);
                then.accept(made);
            } catch (Problem problem) {
                flaw.setText(problem.getMessage());
                flaw.setVisible(true);
            }
        };
        Button keep = Parts.button(does, "Enter", done, "primary");
        keep.setId(id + "-keep");
        keep.setDefaultButton(true);
        Overlay.show(
                within, new VBox(8, Parts.text(title, "strong"), form, flaw, new HBox(Parts.spring(), keep)), WIDTH);
    }

    /**
     * What was typed, without the blanks around it.
     *
     * @throws Problem when there is nothing
     */
    public static String needed(String text, String what) {
        if (text.isBlank()) {
            throw Problem.input(what + " is missing", null, null);
        }
        return text.strip();
    }
}
