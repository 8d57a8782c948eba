package dev.mockbell.desktop.part;

import javafx.scene.layout.StackPane;
import javafx.scene.shape.SVGPath;

/** Line icons of our own drawing, on a field of 20 by 20. */
public enum Icon {
    CONTRACT("M5 2.5h7l3.5 3.5v11.5h-10.5z M12 2.5v3.5h3.5 M7.5 10h5.5 M7.5 13.5h5.5"),
    CALL("M3 10h13 M11.5 5.5l4.5 4.5l-4.5 4.5"),
    CHECK("M3.5 10.5l4.5 4.5l8.5-10"),
    MOCK("M10 2.5v1.5 M4.5 14.5c1.5-1.5 1.5-3 1.5-5.5a4 4 0 0 1 8 0c0 2.5 0 4 1.5 5.5z M8.5 17.2c.8 .8 2.2 .8 3 0"),
    TRAFFIC("M3 7h12.5 M12.5 3.8l3.2 3.2l-3.2 3.2 M17 13h-12.5 M7.5 9.8l-3.2 3.2l3.2 3.2"),
    LOAD("M2.5 16.5l4.5-8l3 4.5l3.5-9l4 12.5");

    private final String path;

    Icon(String path) {
        this.path = path;
    }

    /** The icon as a node of the given size. */
    public StackPane node(double size) {
        SVGPath shape = new SVGPath();
        shape.setContent(path);
        shape.getStyleClass().add("icon-line");
        double scale = size / 20;
        shape.setScaleX(scale);
        shape.setScaleY(scale);
        StackPane box = new StackPane(shape);
        box.setMinSize(size, size);
        box.setMaxSize(size, size);
        box.setMouseTransparent(true);
        return box;
    }
}
