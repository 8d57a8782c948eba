package dev.mockbell.desktop.part;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.toolkit.Toolkit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import javafx.collections.FXCollections;
import javafx.geometry.Point2D;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;
import javafx.stage.Stage;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class GridTest {
    @BeforeAll
    static void start() {
        Toolkit.start();
    }

    private static Stage show(javafx.scene.Parent root, double width) {
        return Hand.on(() -> {
            Stage stage = new Stage();
            Scene scene = new Scene(root, width, 400);
            Look.apply(scene);
            stage.setScene(scene);
            stage.show();
            return stage;
        });
    }

    @Test
    void ofManyRowsOnlyTheVisibleOnesExist() {
        AtomicInteger made = new AtomicInteger();
        Grid<Integer> grid = Hand.on(() -> new Grid<Integer>(26).growing("N", n -> {
            made.incrementAndGet();
            return Parts.text(String.valueOf(n));
        }));
        Stage stage = show(grid, 400);
        Hand.run(() -> grid.items().setAll(IntStream.range(0, 20_000).boxed().toList()));
        new Hand(stage).picture();
        assertThat(made.get()).isBetween(10, 200);
        Hand.run(stage::hide);
    }

    @Test
    void rowsThatComeIntoViewUseTheNodesOfThoseThatLeft() {
        AtomicInteger made = new AtomicInteger();
        Grid<Integer> grid = Hand.on(() -> new Grid<Integer>(26)
                .growing("N", n -> {
                    made.incrementAndGet();
                    return Parts.text(String.valueOf(n));
                })
                .again((node, n) -> {
                    ((Label) node).setText(String.valueOf(n));
                    return true;
                }));
        Stage stage = show(grid, 400);
        Hand hand = new Hand(stage);
        Hand.run(() -> grid.items().setAll(IntStream.range(0, 20_000).boxed().toList()));
        hand.picture();
        int first = made.get();
        for (int to : new int[] {500, 9_000, 19_000, 3}) {
            Hand.run(() -> grid.list().scrollTo(to));
            hand.picture();
            assertThat(shown(grid)).contains(String.valueOf(to), String.valueOf(to + 5));
        }
        assertThat(made.get()).isLessThan(first + 5);
        Hand.run(() -> grid.items().remove(3, 10_000));
        hand.picture();
        assertThat(shown(grid)).contains("10000").doesNotContain("3", "5");
        Hand.run(() -> grid.items().setAll(7));
        hand.picture();
        assertThat(shown(grid)).containsExactly("7");
        Hand.run(stage::hide);
    }

    @Test
    void rowsInPlaceOfOthersAreMadeAsTheyComeIntoView() {
        AtomicInteger made = new AtomicInteger();
        Grid<Integer> grid = Hand.on(() -> new Grid<Integer>(26).unrolled().growing("N", n -> {
            made.incrementAndGet();
            return Parts.text(String.valueOf(n));
        }));
        Stage stage = show(grid, 400);
        Hand hand = new Hand(stage);
        for (int[] range :
                new int[][] {{0, 2}, {100, 20_000}, {40, 42}, {200, 20_100}, {300, 20_200}, {0, 1}, {9, 900}}) {
            Hand.run(() -> {
                int before = made.get();
                grid.setItems(FXCollections.observableArrayList(
                        IntStream.range(range[0], range[1]).boxed().toList()));
                // somebody has something else to show in them too
                grid.refresh();
                assertThat(made.get()).as("made for nobody to see").isEqualTo(before);
            });
            hand.await("all of them", grid::isWhole);
            hand.picture();
            int most = Math.min(range[1] - range[0], 10);
            assertThat(shown(grid))
                    .containsAll(IntStream.range(range[0], range[0] + most)
                            .mapToObj(String::valueOf)
                            .toList());
            assertThat(shown(grid)).doesNotContain(String.valueOf(range[0] - 1));
        }
        Hand.run(stage::hide);
    }

    @Test
    void ofManyRowsNothingIsLeftBehindFewOthers() {
        Grid<Integer> grid = Hand.on(() -> new Grid<Integer>(26).unrolled().growing("N", n -> Parts.text("row " + n)));
        Stage stage = show(grid, 400);
        Hand hand = new Hand(stage);
        for (int few : new int[] {5, 3, 8}) {
            Hand.run(() -> grid.setItems(FXCollections.observableArrayList(
                    IntStream.range(0, 14).boxed().toList())));
            hand.await("all of them", grid::isWhole);
            hand.picture();
            Hand.run(() -> grid.setItems(FXCollections.observableArrayList(
                    IntStream.range(100, 100 + few).boxed().toList())));
            hand.await("the others", grid::isWhole);
            hand.picture();
            assertThat(shown(grid).stream().filter(t -> t.startsWith("row ")))
                    .containsExactlyInAnyOrderElementsOf(IntStream.range(100, 100 + few)
                            .mapToObj(n -> "row " + n)
                            .toList());
        }
        Hand.run(stage::hide);
    }

    @Test
    void oneOrTwoRowsAreNotFilledUpWithRowsOfNothing() {
        Grid<Integer> grid = Hand.on(() -> new Grid<Integer>(26).unrolled().growing("N", n -> Parts.text("row " + n)));
        Stage stage = show(new VBox(new TextField(), Parts.tall(grid)), 400);
        Hand hand = new Hand(stage);
        Hand.run(() -> grid.setItems(FXCollections.observableArrayList(1, 2)));
        hand.picture();
        assertThat(shown(grid)).contains("row 1", "row 2");
        assertThat(Hand.on(() -> grid.list().lookupAll(".list-cell"))).hasSize(2);
        Point2D below = Hand.on(() -> grid.localToScreen(200, 300));
        hand.clickAt(below.getX(), below.getY());
        assertThat(Hand.on(() -> grid.list().isFocused())).as("pressed below").isTrue();
        Hand.run(stage::hide);
    }

    private static List<String> shown(Grid<?> grid) {
        return Hand.on(() -> grid.list().lookupAll(".label").stream()
                .filter(Parts::isShown)
                .map(n -> ((Label) n).getText())
                .toList());
    }

    @Test
    void aFieldIsAPictureUntilThePointerOrTheKeyboardComes() {
        List<String> typed = new ArrayList<>();
        ValueField first = Hand.on(() -> new ValueField("Ines", typed::add).named("first"));
        ValueField second = Hand.on(() -> new ValueField("one\ntwo", typed::add).named("second"));
        ValueField third =
                Hand.on(() -> new ValueField("north", typed::add).named("third").offering(List.of("north", "south")));
        Stage stage = show(new VBox(first, second, third), 300);
        Hand hand = new Hand(stage);
        Hand.run(() -> third.mark(Optional.of("not so"), false, Optional.empty()));
        assertThat(hand.find("#second").orElseThrow())
                .isInstanceOfSatisfying(
                        Label.class, l -> assertThat(l.getText()).isEqualTo("one two"));
        hand.click("#first");
        assertThat(Hand.on(first::isTypedIn)).isTrue();
        hand.press(javafx.scene.input.KeyCode.TAB);
        assertThat(Hand.on(second::isTypedIn)).as("the keyboard wakes the next").isTrue();
        hand.press(javafx.scene.input.KeyCode.TAB);
        hand.press(javafx.scene.input.KeyCode.END);
        hand.press(javafx.scene.input.KeyCode.BACK_SPACE);
        assertThat(typed).containsExactly("nort");
        assertThat(Hand.on(() -> third.field().getStyleClass())).contains("wrong");
        Hand.run(() -> {
            third.again("south", typed::add);
            third.mark(Optional.empty(), false, Optional.empty());
        });
        assertThat(hand.find("#third").orElseThrow())
                .isInstanceOfSatisfying(
                        Label.class, l -> assertThat(l.getText()).isEqualTo("south"));
        assertThat(Hand.on(third::text)).isEqualTo("south");
        Hand.run(() -> {
            first.again("Mira", typed::add);
            first.mark(Optional.empty(), false, Optional.empty());
            stage.getScene().getRoot().layout();
        });
        Hand.run(() -> {
            // the pointer has been there since before
            javafx.scene.robot.Robot robot = new javafx.scene.robot.Robot();
            var at = first.localToScreen(30, first.getHeight() / 2);
            robot.mouseMove(at);
            first.again("Mira Okafor of Lower Fell", typed::add);
            first.mark(Optional.empty(), false, Optional.empty());
            stage.getScene().getRoot().layout();
            robot.mousePress(javafx.scene.input.MouseButton.PRIMARY);
            robot.mouseRelease(javafx.scene.input.MouseButton.PRIMARY);
        });
        Hand.run(() -> {});
        assertThat(Hand.on(first::isTypedIn)).as("a press without a move").isTrue();
        assertThat(Hand.on(() -> first.field().getCaretPosition()))
                .as("where the pointer is")
                .isBetween(1, 6);
        Hand.run(stage::hide);
    }

    private static double width(Grid<?> grid, String text) {
        return Hand.on(() -> grid.lookupAll(".label").stream()
                .filter(n -> ((Label) n).getText().equals(text))
                .findFirst()
                .orElseThrow()
                .getParent()
                .getLayoutBounds()
                .getWidth());
    }

    private static double left(Grid<?> grid, String text) {
        return Hand.on(() -> grid.lookupAll(".label").stream()
                .filter(n -> ((Label) n).getText().equals(text))
                .findFirst()
                .map(n -> n.getParent().localToScene(0, 0).getX())
                .orElseThrow());
    }

    @Test
    void aColumnIsMadeWiderByItsEdgeAndAsItWasByPressingTwice() {
        Grid<String> grid = Hand.on(() -> columns(new Grid<>(26)));
        Stage stage = show(grid, 500);
        Hand.run(() -> grid.items().setAll("row"));
        Hand hand = new Hand(stage);
        hand.picture();
        assertThat(width(grid, "First")).isEqualTo(100);
        javafx.geometry.Bounds edge = edge(grid);
        hand.drag(edge.getCenterX(), edge.getCenterY(), 60);
        hand.await(
                "a wider column",
                () -> grid.lookupAll(".label").stream()
                        .filter(n -> ((Label) n).getText().equals("First"))
                        .anyMatch(n -> n.getParent().getLayoutBounds().getWidth() > 150));
        hand.picture();
        double wide = width(grid, "First");
        assertThat(wide).isBetween(155.0, 165.0);
        assertThat(width(grid, "row 1")).as("the cells follow their heading").isEqualTo(wide);
        assertThat(left(grid, "row 2")).isEqualTo(left(grid, "Second"));
        Hand.run(() -> {
            grid.clearColumns();
            columns(grid);
        });
        hand.picture();
        assertThat(width(grid, "First"))
                .as("a width outlives columns made anew")
                .isEqualTo(wide);
        javafx.geometry.Bounds again = edge(grid);
        hand.clickAt(again.getCenterX(), again.getCenterY());
        hand.clickAt(again.getCenterX(), again.getCenterY());
        hand.await(
                "the usual width",
                () -> grid.lookupAll(".label").stream()
                        .filter(n -> ((Label) n).getText().equals("First"))
                        .anyMatch(n -> n.getParent().getLayoutBounds().getWidth() == 100));
        Hand.run(stage::hide);
    }

    private static javafx.geometry.Bounds edge(Grid<?> grid) {
        return Hand.on(() -> {
            javafx.scene.Node node = grid.lookup(".column-edge");
            return node.localToScreen(node.getBoundsInLocal());
        });
    }

    private static Grid<String> columns(Grid<String> grid) {
        return grid.column("First", 100, s -> Parts.text(s + " 1"))
                .growing("Middle", s -> Parts.text(s + " m"))
                .column("Second", 100, s -> Parts.text(s + " 2"));
    }

    @Test
    void headingsStandOverTheirColumnsBesideAScrollBarToo() {
        Grid<String> grid = Hand.on(() -> columns(new Grid<>(26)));
        Stage stage = show(grid, 500);
        Hand.run(() -> grid.items()
                .setAll(IntStream.range(0, 200).mapToObj(i -> "row " + i).toList()));
        Hand hand = new Hand(stage);
        hand.picture();
        hand.picture();
        assertThat(left(grid, "row 0 2")).isEqualTo(left(grid, "Second"));
        Hand.run(() -> grid.items().setAll("only"));
        hand.picture();
        hand.picture();
        assertThat(left(grid, "only 2")).isEqualTo(left(grid, "Second"));
        Hand.run(stage::hide);
    }

    @Test
    void aColumnYieldsInANarrowGrid() {
        Grid<String> grid = Hand.on(
                () -> new Grid<String>(26).growing("A", Parts::text).yielding("B", 100, 300, s -> Parts.text("wide")));
        Stage stage = show(grid, 400);
        Hand.run(() -> grid.items().setAll("x"));
        Hand hand = new Hand(stage);
        hand.await("both columns", () -> labelsInView(grid) == 4);
        Hand.run(() -> stage.setWidth(250));
        hand.await("one of them", () -> labelsInView(grid) == 2);
        Hand.run(stage::hide);
    }

    private static long labelsInView(Grid<?> grid) {
        return grid.lookupAll(".label").stream()
                .filter(n -> n.getParent().isVisible())
                .count();
    }

    @ParameterizedTest
    @EnumSource(Mark.class)
    void everyResultHasAShapeAndWordsForIt(Mark mark) {
        var node = Hand.on(mark::node);
        assertThat(node.getAccessibleText()).isEqualTo(mark.words()).isNotBlank();
    }

    @Test
    void resultsDifferInShapeNotInColourAlone() {
        var shapes = java.util.Arrays.stream(Mark.values())
                .map(m -> Hand.on(() -> ((javafx.scene.layout.Pane) m.node())
                        .getChildren().stream()
                                .map(n -> n.getClass().getSimpleName()
                                        + (n instanceof javafx.scene.shape.Shape s
                                                        && !s.getStrokeDashArray()
                                                                .isEmpty()
                                                ? " dotted"
                                                : ""))
                                .toList()
                                .toString()))
                .toList();
        assertThat(shapes).doesNotHaveDuplicates();
    }

    @ParameterizedTest
    @EnumSource(Icon.class)
    void everyIconDraws(Icon icon) {
        var box = Hand.on(() -> icon.node(20));
        assertThat(Hand.on(() -> box.getChildren().get(0).getLayoutBounds().getWidth()))
                .isPositive();
    }

    @Test
    void aSwitchIsThrownByClickAndBySpace() {
        AtomicInteger thrown = new AtomicInteger();
        Toggle toggle = Hand.on(() -> new Toggle(thrown::incrementAndGet));
        Stage stage = show(new javafx.scene.layout.StackPane(toggle), 200);
        Hand hand = new Hand(stage);
        Hand.run(toggle::requestFocus);
        hand.press(javafx.scene.input.KeyCode.SPACE);
        hand.click(".toggle");
        assertThat(thrown).hasValue(2);
        Hand.run(stage::hide);
    }

    @Test
    void aTextBeyondTheBoundIsShownInPartAndSaysSo() {
        XmlArea area = Hand.on(() -> new XmlArea(false));
        Hand.run(() -> area.show("x\n".repeat(2_500_005)));
        Stage stage = show(area, 200);
        new Hand(stage).await("its lines", () -> !area.isFilling());
        Hand.run(stage::hide);
        assertThat(Hand.on(area::text)).endsWith("the whole has 5000010 characters");
    }

    @Test
    void aLineOfMillionsOfCharactersIsBrokenToBeShownAndNotEditedSo() {
        XmlArea area = Hand.on(() -> new XmlArea(true));
        Hand.run(() -> area.show("<a>" + "x".repeat(3_000_000) + "</a>"));
        assertThat(Hand.on(area::text).lines().mapToInt(String::length).max().orElse(0))
                .isEqualTo(2_000);
        assertThat(Hand.on(() -> area.area().isEditable())).isFalse();
        Hand.run(() -> area.show("<a>short</a>"));
        assertThat(Hand.on(area::text)).isEqualTo("<a>short</a>");
        assertThat(Hand.on(() -> area.area().isEditable())).isTrue();
    }
}
