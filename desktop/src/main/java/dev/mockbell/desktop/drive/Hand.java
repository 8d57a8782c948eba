package dev.mockbell.desktop.drive;

import dev.mockbell.desktop.part.Parts;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.robot.Robot;
import javafx.stage.Stage;
import javafx.stage.Window;
import javax.imageio.ImageIO;

/** Works a window by mouse and keys from another thread, and takes pictures of it. */
public final class Hand {
    private static final long PATIENCE = 90_000;

    private final Stage stage;
    private final Optional<Watchdog> watchdog;

    public Hand(Stage stage) {
        this(stage, Optional.empty());
    }

    /** A hand whose gestures fail when one holds the interface thread, as the watchdog sees it. */
    public Hand(Stage stage, Watchdog watchdog) {
        this(stage, Optional.of(watchdog));
    }

    private Hand(Stage stage, Optional<Watchdog> watchdog) {
        this.stage = stage;
        this.watchdog = watchdog;
    }

    /** Lets the interface thread come to the end of what a gesture began. */
    private void ended(long millis) {
        pause(millis);
        run(() -> {});
        watchdog.ifPresent(Watchdog::check);
    }

    /** Does something on the interface thread and waits for it; at once, when that is the caller's. */
    public static <T> T on(Callable<T> action) {
        if (Platform.isFxApplicationThread()) {
            try {
                return action.call();
            } catch (Exception e) {
                throw new IllegalStateException(e.getMessage(), e);
            }
        }
        CompletableFuture<T> done = new CompletableFuture<>();
        Platform.runLater(() -> {
            try {
                done.complete(action.call());
            } catch (Exception | AssertionError e) {
                done.completeExceptionally(e);
            }
        });
        try {
            return done.get(PATIENCE, TimeUnit.MILLISECONDS);
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause().getMessage(), e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        } catch (TimeoutException e) {
            throw new IllegalStateException("the interface thread did not answer in 90 s", e);
        }
    }

    /** As {@link #on}, for an action without a result. */
    public static void run(Runnable action) {
        on(() -> {
            action.run();
            return null;
        });
    }

    /** Waits until a condition holds on the interface thread. */
    public void await(String what, BooleanSupplier condition) {
        long until = System.currentTimeMillis() + PATIENCE;
        while (!on(condition::getAsBoolean)) {
            if (System.currentTimeMillis() > until) {
                throw new IllegalStateException("waited in vain for: " + what);
            }
            pause(25);
        }
        watchdog.ifPresent(Watchdog::check);
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** The node that a CSS selector finds in the window or in a menu over it; empty when it is not shown. */
    public Optional<Node> find(String selector) {
        return on(() -> Optional.ofNullable(lookup(selector)));
    }

    /** The shown text of the node that a selector finds. */
    public String text(String selector) {
        return find(selector)
                .map(n -> on(() -> n instanceof javafx.scene.control.Labeled l
                        ? l.getText()
                        : n instanceof javafx.scene.control.TextInputControl t ? t.getText() : ""))
                .orElse("");
    }

    /** Waits for a node and clicks its middle. */
    public void click(String selector) {
        click(selector, () -> lookup(selector));
    }

    private void click(String what, Supplier<Node> wanted) {
        AtomicReference<double[]> at = new AtomicReference<>();
        await(what + " to be shown", () -> {
            at.set(shownAt(wanted));
            return at.get() != null;
        });
        clickAt(at.get()[0], at.get()[1]);
    }

    /**
     * Where the middle of a node is, once it can be pointed at; null while it is not shown. To be called on the
     * interface thread, so that nothing changes meanwhile; a node that is made anew by being scrolled to or laid out
     * is sought again.
     */
    private static double[] shownAt(Supplier<Node> wanted) {
        Node node = wanted.get();
        if (node == null) {
            return null;
        }
        reveal(node);
        Scene scene = node.getScene();
        if (scene == null) {
            return null;
        }
        // a node that was added a moment ago has no place until the next layout
        scene.getRoot().applyCss();
        scene.getRoot().layout();
        Bounds b = node.getScene() == null ? null : node.localToScreen(node.getBoundsInLocal());
        if (b == null) {
            return null;
        }
        double x = b.getMinX() + b.getWidth() / 2;
        double y = b.getMinY() + b.getHeight() / 2;
        return isCutOff(node, x, y) ? null : new double[] {x, y};
    }

    /** Whether a list or a pane that a node is in has no room for that point of it now: nobody could point at it. */
    private static boolean isCutOff(Node node, double x, double y) {
        for (Node n = node.getParent(); n != null; n = n.getParent()) {
            Node clip = n.getClip();
            if (clip != null && !clip.getBoundsInParent().contains(n.screenToLocal(x, y))) {
                return true;
            }
        }
        return false;
    }

    /** Scrolls to where a node can be pointed at, as its user would. */
    private static void reveal(Node node) {
        for (Node n = node.getParent(); n != null; n = n.getParent()) {
            if (n instanceof javafx.scene.control.ScrollPane pane && pane.getContent() != null) {
                pane.layout();
                var content = pane.getContent().getLayoutBounds();
                var at = pane.getContent().sceneToLocal(node.localToScene(node.getLayoutBounds()));
                double room = content.getHeight() - pane.getViewportBounds().getHeight();
                double top = pane.getVvalue() * Math.max(0, room);
                boolean seen = at.getMinY() >= top
                        && at.getMaxY() <= top + pane.getViewportBounds().getHeight();
                if (room > 0 && !seen) {
                    double middle = at.getCenterY() - pane.getViewportBounds().getHeight() / 2;
                    pane.setVvalue(Math.max(0, Math.min(1, middle / room)));
                    pane.layout();
                }
            }
        }
    }

    private Node lookup(String selector) {
        for (Window window : Window.getWindows()) {
            if (window.isShowing() && window.getScene() != null) {
                for (Node found : window.getScene().getRoot().lookupAll(selector)) {
                    if (Parts.isShown(found)) {
                        return found;
                    }
                }
            }
        }
        return null;
    }

    /** Clicks the first shown text that reads so: a button, a row, a menu item. */
    public void clickText(String words) {
        click("“" + words + "”", () -> withText(words));
    }

    /** Whether a text that is shown has these words in it. */
    public boolean shows(String words) {
        return on(() -> withText(text -> text.contains(words)) != null);
    }

    private static Node withText(String words) {
        return withText(words::equals);
    }

    private static Node withText(Predicate<String> wanted) {
        java.util.List<Window> windows = new java.util.ArrayList<>(Window.getWindows());
        java.util.Collections.reverse(windows);
        for (Window window : windows) {
            if (window.isShowing() && window.getScene() != null) {
                Node found = withText(window.getScene().getRoot(), wanted);
                if (found != null) {
                    return found;
                }
            }
        }
        return null;
    }

    private static Node withText(Node node, Predicate<String> wanted) {
        if (!node.isVisible()) {
            return null;
        }
        if (node instanceof javafx.scene.Parent parent) {
            var children = parent.getChildrenUnmodifiable();
            for (int i = children.size() - 1; i >= 0; i--) {
                Node found = withText(children.get(i), wanted);
                if (found != null) {
                    return found;
                }
            }
        }
        boolean here =
                node instanceof javafx.scene.control.Labeled l && l.getText() != null && wanted.test(l.getText());
        return here ? node : null;
    }

    /** Clicks a point of the screen. */
    public void clickAt(double x, double y) {
        run(() -> {
            Robot robot = new Robot();
            robot.mouseMove(x, y);
            robot.mousePress(MouseButton.PRIMARY);
            robot.mouseRelease(MouseButton.PRIMARY);
        });
        ended(60);
    }

    /** Drags a point of the screen sideways. */
    public void drag(double x, double y, double by) {
        run(() -> {
            Robot robot = new Robot();
            robot.mouseMove(x, y);
            robot.mousePress(MouseButton.PRIMARY);
        });
        run(() -> new Robot().mouseMove(x + by / 2, y));
        run(() -> {
            Robot robot = new Robot();
            robot.mouseMove(x + by, y);
            robot.mouseRelease(MouseButton.PRIMARY);
        });
        ended(60);
    }

    /** Presses keys together, in the order given, and lets go in the opposite order. */
    public void press(KeyCode... keys) {
        run(() -> {
            Robot robot = new Robot();
            for (KeyCode key : keys) {
                robot.keyPress(key);
            }
            for (int i = keys.length - 1; i >= 0; i--) {
                robot.keyRelease(keys[i]);
            }
        });
        ended(50);
    }

    /** Puts text into a field as if typed over what stands there. */
    public void type(String selector, String text) {
        click(selector);
        Node node = find(selector).orElseThrow();
        run(() -> {
            if (node instanceof javafx.scene.control.TextInputControl field) {
                field.selectAll();
                field.replaceSelection(text);
            }
        });
        ended(40);
    }

    /** The window's content as pixels. */
    public BufferedImage picture() {
        // a scroll bar that a layout brings up gets its place in the layout after it
        run(() -> stage.getScene().getRoot().layout());
        return on(() -> {
            Scene scene = stage.getScene();
            WritableImage image = scene.snapshot(null);
            int width = (int) image.getWidth();
            int height = (int) image.getHeight();
            BufferedImage out = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
            var pixels = image.getPixelReader();
            for (int y = 0; y < height; y++) {
                for (int x = 0; x < width; x++) {
                    out.setRGB(x, y, pixels.getArgb(x, y));
                }
            }
            return out;
        });
    }

    /** Writes a picture of the window as PNG. */
    public void shoot(Path file) {
        pause(250);
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            ImageIO.write(picture(), "png", file.toFile());
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    public Stage stage() {
        return stage;
    }
}
