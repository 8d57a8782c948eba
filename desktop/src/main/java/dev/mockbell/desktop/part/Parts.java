package dev.mockbell.desktop.part;

import java.io.File;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.Window;

/** Small nodes that every view uses, in one look. */
public final class Parts {
    private static final String SAYS = "mockbell.says";

    /** Characters of a label or a tip. */
    private static final int MOST_SAID = 2_000;

    private Parts() {}

    /** A text with style classes; of a very long one its start. */
    public static Label text(String words, String... classes) {
        Label label = new Label(start(words, MOST_SAID));
        label.getStyleClass().addAll(classes);
        return label;
    }

    /**
     * The start of a text that may be of any length: laying out megabytes would hold the interface thread.
     *
     * @param most characters; one beyond the basic plane is not cut in two
     */
    public static String start(String text, int most) {
        if (text.length() <= most) {
            return text;
        }
        return text.substring(0, Character.isHighSurrogate(text.charAt(most - 1)) ? most - 1 : most) + "…";
    }

    /** As {@link #start}, on one line. */
    public static String line(String text, int most) {
        return start(text, most).strip().replaceAll("\\s+", " ");
    }

    /** A result and words beside it. */
    public static Label marked(Mark mark, String words, String... classes) {
        Label label = text(words, classes);
        mark(label, mark);
        label.setGraphicTextGap(6);
        return label;
    }

    /** Gives a label of {@link #marked}, or a button, another result; nothing happens where it has that one. */
    public static void mark(Labeled label, Mark mark) {
        if (label.getUserData() != mark) {
            label.setUserData(mark);
            label.setGraphic(mark.node());
        }
    }

    /** A button; {@code tip} names its shortcut where it has one. */
    public static Button button(String words, String tip, Runnable action, String... classes) {
        Button button = new Button(words);
        button.getStyleClass().addAll(classes);
        button.setOnAction(e -> action.run());
        if (!tip.isEmpty()) {
            tip(button, tip);
            button.setAccessibleHelp(tip);
        }
        button.setMinWidth(Region.USE_PREF_SIZE);
        return button;
    }

    /** Whether a node is in a scene, and neither it nor anything that it is in is hidden. */
    public static boolean isShown(Node node) {
        for (Node n = node; n != null; n = n.getParent()) {
            if (!n.isVisible()) {
                return false;
            }
        }
        return node.getScene() != null;
    }

    /** Shows a node or takes it out of sight; it takes no room then. */
    public static void shown(Node node, boolean on) {
        node.setVisible(on);
        node.setManaged(on);
    }

    /**
     * Has a box show these nodes, in this order. Those that are there already are not taken out and put in again: a button that is
     * pressed just then would not hear of it.
     */
    public static void keep(Pane box, List<? extends Node> wanted) {
        List<Node> there = box.getChildren();
        there.retainAll(new HashSet<>(wanted));
        for (int i = 0; i < wanted.size(); i++) {
            if (i >= there.size() || there.get(i) != wanted.get(i)) {
                there.remove(wanted.get(i));
                there.add(i, wanted.get(i));
            }
        }
    }

    /**
     * Whether what a box is to say is another than the last time that it was asked; it says that from then on. What is made anew at
     * every turn loses the click that comes meanwhile.
     */
    public static boolean isNews(Pane box, Object says) {
        return !says.equals(box.getProperties().put(SAYS, says));
    }

    /** Puts a style class on a node or takes it away; nothing happens, and nothing is styled anew, where it is so already. */
    public static void classed(Node node, String name, boolean on) {
        if (node.getStyleClass().contains(name) != on) {
            if (on) {
                node.getStyleClass().add(name);
            } else {
                node.getStyleClass().remove(name);
            }
        }
    }

    /** Says what a node is, for people who point at it; made only then, because a tooltip costs more than most nodes. */
    public static void tip(Node node, String words) {
        if (!words.isEmpty()) {
            tip(node, () -> words);
        }
    }

    /** As {@link #tip(Node, String)}, for words that change; none while they are empty. */
    public static void tip(Node node, Supplier<String> words) {
        Tooltip[] tip = new Tooltip[1];
        node.addEventHandler(MouseEvent.MOUSE_ENTERED, e -> {
            if (tip[0] == null) {
                tip[0] = new Tooltip();
                tip[0].setWrapText(true);
                tip[0].setMaxWidth(360);
            }
            String said = start(words.get(), MOST_SAID);
            tip[0].setText(said);
            if (said.isEmpty()) {
                Tooltip.uninstall(node, tip[0]);
            } else {
                Tooltip.install(node, tip[0]);
            }
        });
    }

    /** Lets a file be dropped on a node. */
    public static void dropped(Node node, Consumer<Path> file) {
        node.setOnDragOver(e -> {
            if (e.getDragboard().hasFiles()) {
                e.acceptTransferModes(TransferMode.COPY);
                e.consume();
            }
        });
        node.setOnDragDropped(e -> {
            if (e.getDragboard().hasFiles()) {
                file.accept(e.getDragboard().getFiles().get(0).toPath());
                e.setDropCompleted(true);
                e.consume();
            }
        });
    }

    /** A text that acts as a link, reachable by Tab. */
    public static Button link(String words, String tip, Runnable action) {
        return button(words, tip, action, "quiet", "link");
    }

    /** Whether the keyboard is in a node, or in what is within it. */
    public static boolean holdsKeyboard(Node node) {
        Node at = node.getScene() == null ? null : node.getScene().getFocusOwner();
        while (at != null && at != node) {
            at = at.getParent();
        }
        return at != null;
    }

    /** Takes up the room that is left. */
    public static Region spring() {
        Region region = new Region();
        HBox.setHgrow(region, Priority.ALWAYS);
        VBox.setVgrow(region, Priority.ALWAYS);
        return region;
    }

    /** The head of a panel. */
    public static HBox head(String title, Node... more) {
        HBox head = new HBox(text(title, "heading"));
        head.getStyleClass().add("panel-head");
        head.getChildren().addAll(more);
        return head;
    }

    /** The head of a part within a panel. */
    public static HBox innerHead(String title, Node... more) {
        HBox head = head(title, more);
        head.getStyleClass().add("inner");
        return head;
    }

    /** The foot of a panel. */
    public static HBox foot(Node... nodes) {
        HBox foot = new HBox(nodes);
        foot.getStyleClass().add("panel-foot");
        return foot;
    }

    /** A panel of parts on top of each other; the parts that should grow say so themselves. */
    public static VBox panel(Node... nodes) {
        VBox panel = new VBox(nodes);
        panel.getStyleClass().add("panel");
        return panel;
    }

    /** Lets a grid of a width of its own be moved through where there is less room. */
    public static ScrollPane wider(Region content, double least) {
        content.setMinWidth(least);
        ScrollPane pane = new ScrollPane(content);
        pane.setFitToWidth(true);
        pane.setFitToHeight(true);
        pane.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        pane.setMinWidth(0);
        return pane;
    }

    /** Lets a node take the height that is left. */
    public static <T extends Node> T tall(T node) {
        VBox.setVgrow(node, Priority.ALWAYS);
        return node;
    }

    /** Lets a node take the width that is left. */
    public static <T extends Region> T wide(T node) {
        HBox.setHgrow(node, Priority.ALWAYS);
        node.setMaxWidth(Double.MAX_VALUE);
        return node;
    }

    /**
     * One of several: a row of words of which one is chosen.
     *
     * @param words what each is called
     * @param chosen the one at first; none when it is not among them
     */
    public static <T> HBox segments(List<T> all, Function<T, String> words, T chosen, Consumer<T> choose) {
        HBox box = new HBox(2);
        box.setAlignment(Pos.CENTER_LEFT);
        ToggleGroup group = new ToggleGroup();
        for (T one : all) {
            String name = words.apply(one);
            ToggleButton button = new ToggleButton(name);
            button.getStyleClass().setAll("segment");
            button.setToggleGroup(group);
            button.setSelected(one.equals(chosen));
            button.setMinWidth(Region.USE_PREF_SIZE);
            button.setId("segment-" + name.toLowerCase(java.util.Locale.ROOT).replace(' ', '-'));
            button.setOnAction(e -> {
                button.setSelected(true);
                choose.accept(one);
            });
            box.getChildren().add(button);
        }
        return box;
    }

    /** Shows which of the segments is chosen, without choosing. */
    public static void choose(HBox segments, String name) {
        segments.getChildren().forEach(n -> {
            if (n instanceof ToggleButton b) {
                b.setSelected(b.getText().equals(name));
            }
        });
    }

    /** What belongs in an empty place, and the one action that fills it. */
    public static VBox empty(String words, Node... action) {
        Label label = text(words);
        label.setMaxWidth(420);
        VBox box = new VBox(label);
        box.getChildren().addAll(action);
        box.getStyleClass().add("empty");
        return box;
    }

    /**
     * Asks for a folder.
     *
     * @param start where to begin; null, or one that is not there, for wherever the system does
     * @return empty when none was chosen
     */
    public static Optional<Path> folder(Window owner, String title, Path start) {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        if (start != null && start.toFile().isDirectory()) {
            chooser.setInitialDirectory(start.toFile());
        }
        return Optional.ofNullable(chooser.showDialog(owner)).map(File::toPath);
    }
}
