package dev.mockbell.desktop;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.part.Parts;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.layout.BackgroundFill;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.text.Text;

/** What people who do not see well, or who do not use a mouse, would miss in what is shown. */
final class Access {
    /** WCAG 2.2, 1.4.3. */
    private static final double CONTRAST = 4.5;

    private final Set<String> flaws = new TreeSet<>();

    private Access() {}

    /** Things that the keyboard reaches and that have no name or no role, and texts that do not stand out from their ground. */
    static Set<String> flaws(Scene scene, String where) {
        return Hand.on(() -> {
            Access looking = new Access();
            looking.look(scene.getRoot(), where);
            return looking.flaws;
        });
    }

    private void look(Node node, String where) {
        if (!node.isVisible() || node.getBoundsInLocal().isEmpty() && !(node instanceof Parent)) {
            return;
        }
        if (node.isFocusTraversable() && !node.isDisabled() && !(node instanceof ScrollPane)) {
            if (name(node).isBlank()) {
                flaws.add(where + ": no name: " + path(node));
            }
            boolean none = node.getAccessibleRole() == AccessibleRole.NODE
                    || node.getAccessibleRole() == AccessibleRole.PARENT;
            // the whole window has the keyboard while nothing of it has
            if (none && node.getParent() != null) {
                flaws.add(where + ": no role: " + path(node));
            }
        }
        if (node instanceof Text text && !text.getText().isBlank() && Parts.isShown(text)) {
            contrast(text, where);
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(n -> look(n, where));
        }
    }

    private static String name(Node node) {
        if (node.getAccessibleText() != null) {
            return node.getAccessibleText();
        }
        if (node instanceof Labeled labeled && labeled.getText() != null) {
            return labeled.getText();
        }
        if (node instanceof TextInputControl field) {
            return field.getPromptText() == null ? "" : field.getPromptText();
        }
        return "";
    }

    private void contrast(Text text, String where) {
        if (!(text.getFill() instanceof Color fill) || opacity(text) < 1 || disabled(text)) {
            return;
        }
        Color ground = ground(text.getParent());
        double ratio = ratio(over(fill, ground), ground);
        if (ratio < CONTRAST) {
            String words = text.getText().strip();
            flaws.add(String.format(
                    Locale.ROOT,
                    "%s: %.2f of %s on %s: “%s” %s",
                    where,
                    ratio,
                    hex(fill),
                    hex(ground),
                    words.substring(0, Math.min(24, words.length())),
                    path(text)));
        }
    }

    /** What nobody can use now need not be read (WCAG 2.2, 1.4.3, incidental). */
    private static boolean disabled(Node node) {
        return node.isDisabled();
    }

    private static double opacity(Node node) {
        double all = 1;
        for (Node n = node; n != null; n = n.getParent()) {
            all *= n.getOpacity();
        }
        return all;
    }

    private static Color ground(Node node) {
        List<Color> above = new ArrayList<>();
        for (Node n = node; n != null; n = n.getParent()) {
            if (n instanceof Region region && region.getBackground() != null) {
                List<BackgroundFill> fills = region.getBackground().getFills();
                for (int i = fills.size() - 1; i >= 0; i--) {
                    if (fills.get(i).getFill() instanceof Color colour && colour.getOpacity() > 0) {
                        above.add(colour);
                        if (colour.getOpacity() == 1) {
                            return mixed(above);
                        }
                    }
                }
            }
        }
        above.add(Color.WHITE);
        return mixed(above);
    }

    private static Color mixed(List<Color> above) {
        Color ground = above.get(above.size() - 1);
        for (int i = above.size() - 2; i >= 0; i--) {
            ground = over(above.get(i), ground);
        }
        return ground;
    }

    private static Color over(Color colour, Color ground) {
        double a = colour.getOpacity();
        return new Color(
                colour.getRed() * a + ground.getRed() * (1 - a),
                colour.getGreen() * a + ground.getGreen() * (1 - a),
                colour.getBlue() * a + ground.getBlue() * (1 - a),
                1);
    }

    /** The ratio of WCAG 2.2. */
    static double ratio(Color one, Color other) {
        double a = luminance(one);
        double b = luminance(other);
        return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
    }

    private static double luminance(Color c) {
        return 0.2126 * linear(c.getRed()) + 0.7152 * linear(c.getGreen()) + 0.0722 * linear(c.getBlue());
    }

    private static double linear(double channel) {
        return channel <= 0.04045 ? channel / 12.92 : Math.pow((channel + 0.055) / 1.055, 2.4);
    }

    private static String hex(Color c) {
        return c.toString().substring(2, 8);
    }

    private static String path(Node node) {
        StringBuilder path = new StringBuilder();
        int deep = 0;
        for (Node n = node; n != null && deep < 5; n = n.getParent(), deep++) {
            String styles = String.join(".", n.getStyleClass());
            path.append(deep == 0 ? "" : " < ")
                    .append(n.getClass().getSimpleName())
                    .append(n.getId() == null ? "" : "#" + n.getId())
                    .append(styles.isEmpty() ? "" : "." + styles);
            if (n instanceof Label label && deep == 0) {
                path.append(" “").append(label.getText()).append('”');
            }
        }
        return path.toString();
    }
}
