package dev.mockbell.desktop.part;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.StringJoiner;
import java.util.function.BiPredicate;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.collections.ObservableList;
import javafx.geometry.Insets;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.AccessibleAttribute;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollBar;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/**
 * A dense table: a head and rows of which only the visible ones exist. Columns have a width or share what is left, until the user
 * drags their edges.
 *
 * @param <T> what a row shows
 */
public final class Grid<T> extends VBox {
    private static final double NARROWEST = 36;

    /** A column. Its width is the user's to change; 0 shares the room that is left. */
    private static final class Column<T> {
        private String title;
        private final double usual;
        private final Pos side;
        private final double shownFrom;
        private final Function<T, Node> cell;
        private final DoubleProperty width = new SimpleDoubleProperty();
        private BiPredicate<Node, T> again = (node, row) -> false;

        Column(String title, double usual, Pos side, double shownFrom, Function<T, Node> cell) {
            this.title = title;
            this.usual = usual;
            this.side = side;
            this.shownFrom = shownFrom;
            this.cell = cell;
            width.set(usual);
        }

        String title() {
            return title;
        }

        Pos side() {
            return side;
        }
    }

    private final List<Column<T>> columns = new ArrayList<>();
    private final HBox head = new HBox();
    private final ListView<T> list = new ListView<>();
    private final List<Cell> cells = new ArrayList<>();
    private final Map<String, Comparator<T>> orders = new HashMap<>();
    private Consumer<Optional<Comparator<T>>> sort = by -> {};
    /** The widths that the user has given, by title: they outlive columns that are made anew. */
    private final Map<String, Double> chosen = new HashMap<>();

    private String sortedBy = "";
    private boolean reversed;
    private int turns;
    private ScrollBar bar;
    private int layouts;
    private boolean replacing;
    private Optional<Unrolled> unrolled = Optional.empty();
    private Predicate<T> group = row -> false;
    private Function<T, Node> groupNode = row -> new Label();

    public Grid(double rowHeight) {
        getStyleClass().add("grid");
        head.getStyleClass().add("grid-head");
        list.setFixedCellSize(rowHeight);
        list.setCellFactory(view -> new Cell());
        VBox.setVgrow(list, Priority.ALWAYS);
        getChildren().addAll(head, list);
    }

    /** Headings stand over their columns also while a scroll bar takes room beside the rows. */
    @Override
    protected void layoutChildren() {
        super.layoutChildren();
        findBar();
        double width = bar != null && bar.isVisible() ? bar.getWidth() : 0;
        if (head.getPadding().getRight() != width) {
            head.setPadding(new Insets(0, width, 0, 0));
            Platform.runLater(this::requestLayout);
        }
    }

    /** Looks for the bar until it is there, not at each layout: that goes through all that the rows are made of. */
    private void findBar() {
        if (bar != null) {
            return;
        }
        for (Node n : list.lookupAll(".scroll-bar")) {
            if (n instanceof ScrollBar s && s.getOrientation() == Orientation.VERTICAL) {
                bar = s;
                s.visibleProperty().addListener((o, was, now) -> requestLayout());
            }
        }
    }

    /** Adds a column of fixed width, content at the left. */
    public Grid<T> column(String title, double width, Function<T, Node> cell) {
        return add(new Column<>(title, width, Pos.CENTER_LEFT, 0, cell));
    }

    /** Adds a column of fixed width, content at the right, for numbers. */
    public Grid<T> number(String title, double width, Function<T, Node> cell) {
        return add(new Column<>(title, width, Pos.CENTER_RIGHT, 0, cell));
    }

    /** Adds a column of fixed width, content in the middle. */
    public Grid<T> centred(String title, double width, Function<T, Node> cell) {
        return add(new Column<>(title, width, Pos.CENTER, 0, cell));
    }

    /** Adds a column of fixed width that gives way while the grid is narrower than {@code shownFrom}. */
    public Grid<T> yielding(String title, double width, double shownFrom, Function<T, Node> cell) {
        return add(new Column<>(title, width, Pos.CENTER_LEFT, shownFrom, cell));
    }

    /** Adds a column that shares the room that is left. */
    public Grid<T> growing(String title, Function<T, Node> cell) {
        return add(new Column<>(title, 0, Pos.CENTER_LEFT, 0, cell));
    }

    private Grid<T> add(Column<T> column) {
        columns.add(column);
        // what a screen reader says of the list, until somebody gives it a name
        list.setAccessibleText("Table: "
                + columns.stream().map(Column::title).filter(t -> !t.isBlank()).collect(Collectors.joining(", ")));
        turns++;
        Optional.ofNullable(chosen.get(column.title())).ifPresent(column.width::set);
        Label title = Parts.text(column.title());
        StackPane box = box(column);
        put(box, column, title);
        box.setOnMouseClicked(e -> sortBy(column.title()));
        Region edge = edge(column, box);
        box.getChildren().add(edge);
        head.getChildren().add(box);
        return this;
    }

    /** The right edge of a heading, by which the column is made wider or narrower; twice pressed, it is as it was. */
    private Region edge(Column<?> column, StackPane box) {
        Region edge = new Region();
        edge.getStyleClass().add("column-edge");
        edge.setMinWidth(7);
        edge.setMaxWidth(7);
        edge.setCursor(Cursor.H_RESIZE);
        StackPane.setAlignment(edge, Pos.CENTER_RIGHT);
        StackPane.setMargin(edge, new Insets(0, -8, 0, 0));
        edge.setOnMousePressed(MouseEvent::consume);
        edge.setOnMouseDragged(e -> {
            double left = box.localToScene(0, 0).getX();
            column.width.set(Math.max(NARROWEST, e.getSceneX() - left));
            chosen.put(column.title(), column.width.get());
            e.consume();
        });
        edge.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                column.width.set(column.usual);
                chosen.remove(column.title());
            }
            e.consume();
        });
        return edge;
    }

    /** Lets the heading of the column added last be pressed, and asked by the context menu for what can be done with it. */
    public Grid<T> heading(Runnable pressed, Consumer<Node> menu) {
        Node box = head.getChildren().get(head.getChildren().size() - 1);
        box.setOnMouseClicked(e -> {
            if (e.getButton() == MouseButton.PRIMARY) {
                pressed.run();
            }
        });
        box.setOnContextMenuRequested(e -> {
            menu.accept(box);
            e.consume();
        });
        return this;
    }

    /**
     * Lets the column added last use its nodes again for other rows, which is many times faster than making new ones.
     *
     * @param again makes a node show a row; false when that node cannot, and a new one is made
     */
    public Grid<T> again(BiPredicate<Node, T> again) {
        columns.get(columns.size() - 1).again = again;
        return this;
    }

    /** Lets a click on a column's title sort by it: up, down, and as it was. */
    public Grid<T> sorted(String title, Comparator<T> by) {
        orders.put(title, by);
        return this;
    }

    /** Hears of the order that is wished; empty for the rows' own. */
    public Grid<T> onSort(Consumer<Optional<Comparator<T>>> listener) {
        sort = listener;
        return this;
    }

    private void sortBy(String title) {
        Comparator<T> by = orders.get(title);
        if (by == null) {
            return;
        }
        boolean same = sortedBy.equals(title);
        boolean off = same && reversed;
        reversed = same && !reversed;
        sortedBy = off ? "" : title;
        for (int i = 0; i < columns.size(); i++) {
            String own = columns.get(i).title();
            label(i).setText(own.equals(sortedBy) ? own + (reversed ? " ↓" : " ↑") : own);
        }
        sort.accept(off ? Optional.empty() : Optional.of(reversed ? by.reversed() : by));
    }

    /** Gives a column another title; what is in it stays. */
    public void retitle(int column, String title) {
        columns.get(column).title = title;
        label(column).setText(title);
    }

    private Label label(int column) {
        return (Label)
                ((StackPane) head.getChildren().get(column)).getChildren().get(0);
    }

    /** Takes all columns away, to be added anew. */
    public void clearColumns() {
        columns.clear();
        turns++;
        layouts++;
        unrolled.ifPresent(Unrolled::again);
        head.getChildren().clear();
    }

    /** Some rows are headings over the ones that follow. */
    public Grid<T> grouped(Predicate<T> isGroup, Function<T, Node> node) {
        group = isGroup;
        groupNode = node;
        return this;
    }

    /** Rows are not chosen, only looked at or edited. */
    public Grid<T> flat() {
        getStyleClass().add("flat");
        return this;
    }

    /** Rows of which much is made are made over several pulses the first time. */
    public Grid<T> unrolled() {
        getChildren().remove(list);
        Unrolled box = new Unrolled(list, () -> list.getItems().size());
        // below a row or two
        box.setOnMousePressed(e -> list.requestFocus());
        getChildren().add(Parts.tall(box));
        unrolled = Optional.of(box);
        return this;
    }

    /** Whether all the rows that there is room for are made. */
    public boolean isWhole() {
        return unrolled.map(Unrolled::isWhole).orElse(true);
    }

    /** Shows no head. */
    public Grid<T> headless() {
        getChildren().remove(head);
        return this;
    }

    public ObservableList<T> items() {
        return list.getItems();
    }

    public void setItems(ObservableList<T> items) {
        // each cell would make its row anew at once, those that are in view no more too
        replacing = unrolled.isPresent();
        list.setItems(items);
        replacing = false;
    }

    /** Shows the rows in view anew, because what they show has changed though the items are the same. */
    public void refresh() {
        turns++;
        // the list's own way of refreshing throws every cell away and makes new ones
        cells.forEach(Cell::refresh);
    }

    public ListView<T> list() {
        return list;
    }

    public void setPlaceholder(Node node) {
        list.setPlaceholder(node);
    }

    private StackPane box(Column<T> column) {
        StackPane box = new StackPane();
        box.setPadding(new Insets(0, 8, 0, 8));
        if (column.shownFrom > 0) {
            box.visibleProperty().bind(widthProperty().greaterThanOrEqualTo(column.shownFrom));
            box.managedProperty().bind(box.visibleProperty());
        }
        BooleanBinding fixed = column.width.greaterThan(0);
        box.minWidthProperty().bind(column.width);
        box.prefWidthProperty().bind(Bindings.when(fixed).then(column.width).otherwise(10.0));
        box.maxWidthProperty().bind(Bindings.when(fixed).then(column.width).otherwise(Double.MAX_VALUE));
        HBox.setHgrow(box, Priority.ALWAYS);
        return box;
    }

    private void put(StackPane box, Column<T> column, Node content) {
        if (content instanceof HBox line && line.getAlignment() == Pos.TOP_LEFT) {
            line.setAlignment(column.side());
        }
        if (content == null) {
            box.getChildren().clear();
        } else {
            StackPane.setAlignment(content, column.side());
            box.getChildren().setAll(content);
        }
    }

    private final class Cell extends ListCell<T> {
        private final List<StackPane> boxes = new ArrayList<>();
        private T shown;
        private int turn;
        private int layout;
        private boolean late;

        Cell() {
            setPrefWidth(0);
            cells.add(this);
        }

        void refresh() {
            // what is late comes anyway, and what is out of view where it comes into it again
            if (!isEmpty() && !late && isVisible()) {
                updateItem(getItem(), false);
            }
        }

        @Override
        protected void updateItem(T item, boolean empty) {
            super.updateItem(item, empty);
            // one that has no row any more is not asked again
            late = replacing && !empty;
            if (late) {
                return;
            }
            // a cell is also asked again when it is chosen; what is in it may have the keyboard and stays then
            boolean built = item != null && !empty && item == shown && turn == turns && getGraphic() != null;
            if (built) {
                return;
            }
            shown = empty ? null : item;
            turn = turns;
            boolean heads = !empty && item != null && group.test(item);
            Parts.classed(this, "group", heads);
            if (empty || item == null) {
                // often for a moment only, while rows around it come and go; what is not shown loses the keyboard
                if (getGraphic() != null && getGraphic().isVisible()) {
                    getGraphic().setVisible(Parts.holdsKeyboard(getGraphic()));
                    Platform.runLater(this::clear);
                }
            } else if (heads) {
                head(item);
            } else {
                columns(item);
            }
        }

        /** What came while the rows were replaced, or while the cell was out of view, is made once it is laid out. */
        @Override
        protected boolean isItemChanged(T was, T now) {
            return late || turn != turns || super.isItemChanged(was, now);
        }

        /** The words of the row, put together when somebody listens. */
        @Override
        public Object queryAccessibleAttribute(AccessibleAttribute attribute, Object... parameters) {
            if (attribute == AccessibleAttribute.TEXT && getGraphic() != null) {
                StringJoiner words = new StringJoiner(", ");
                say(getGraphic(), words);
                return words.toString();
            }
            return super.queryAccessibleAttribute(attribute, parameters);
        }

        private static void say(Node node, StringJoiner words) {
            String said = node.getAccessibleText() != null
                    ? node.getAccessibleText()
                    : node instanceof Labeled labeled ? labeled.getText() : "";
            if (said != null && !said.isBlank()) {
                words.add(said);
            }
            if (node instanceof Labeled labeled && labeled.getGraphic() != null) {
                say(labeled.getGraphic(), words);
            } else if (node instanceof Pane pane && node.getAccessibleText() == null) {
                pane.getChildren().stream().filter(Node::isVisible).forEach(n -> say(n, words));
            }
        }

        private void clear() {
            if (isEmpty()) {
                setGraphic(null);
                boxes.clear();
            }
        }

        private HBox row() {
            HBox row = new HBox();
            row.getStyleClass().add("grid-row");
            row.setMinHeight(list.getFixedCellSize() - 1);
            return row;
        }

        private void head(T item) {
            boxes.clear();
            HBox row = row();
            row.setPadding(new Insets(0, 8, 0, 8));
            Node heading = groupNode.apply(item);
            if (heading instanceof HBox line) {
                line.setAlignment(Pos.CENTER_LEFT);
            }
            row.getChildren().add(heading);
            setGraphic(row);
        }

        private void columns(T item) {
            if (boxes.isEmpty() || layout != layouts) {
                boxes.clear();
                HBox row = row();
                columns.forEach(c -> boxes.add(box(c)));
                row.getChildren().addAll(boxes);
                layout = layouts;
                setGraphic(row);
            }
            // columns that were added since stand behind the ones that are there
            while (boxes.size() < columns.size()) {
                StackPane box = box(columns.get(boxes.size()));
                boxes.add(box);
                ((HBox) getGraphic()).getChildren().add(box);
            }
            getGraphic().setVisible(true);
            for (int i = 0; i < columns.size(); i++) {
                Column<T> column = columns.get(i);
                StackPane box = boxes.get(i);
                boolean same = !box.getChildren().isEmpty()
                        && column.again.test(box.getChildren().get(0), item);
                if (!same) {
                    put(box, column, column.cell.apply(item));
                }
            }
        }
    }
}
