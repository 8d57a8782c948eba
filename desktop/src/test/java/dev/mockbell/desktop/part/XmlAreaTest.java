package dev.mockbell.desktop.part;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.toolkit.Toolkit;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import javafx.scene.Scene;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The lines of a large text that is out of view are kept while there is room, and made again when they went. */
class XmlAreaTest {
    private static final int LINES = 20_000;

    private final AtomicBoolean gone = new AtomicBoolean();
    private final AtomicInteger kept = new AtomicInteger();
    private StackPane room;
    private Stage stage;
    private Hand hand;
    private XmlArea area;

    @BeforeAll
    static void start() {
        Toolkit.start();
    }

    @BeforeEach
    void open() {
        stage = Hand.on(() -> {
            area = new XmlArea(false, lines -> {
                kept.incrementAndGet();
                return () -> gone.get() ? null : lines;
            });
            area.area().setId("lines");
            room = new StackPane(area);
            Stage made = new Stage();
            Scene scene = new Scene(room, 500, 400);
            Look.apply(scene);
            made.setScene(scene);
            made.show();
            return made;
        });
        hand = new Hand(stage);
    }

    @AfterEach
    void close() {
        Hand.run(stage::hide);
    }

    private static String text(String name) {
        StringBuilder text = new StringBuilder("<" + name + ">\n");
        for (int i = 1; i <= LINES; i++) {
            text.append("  <row>").append(i).append("</row>\n");
        }
        return text.append("</").append(name).append('>').toString();
    }

    private void show(String text) {
        Hand.run(() -> area.show(text));
        hand.await(
                "the lines",
                () -> !area.isFilling() && area.area().getParagraphs().size() > LINES);
    }

    private void leave() {
        Hand.run(() -> room.getChildren().clear());
        hand.await("they are let go of", () -> kept.get() == 1);
        assertThat(Hand.on(() -> area.area().getLength())).isZero();
    }

    private void comeBack() {
        Hand.run(() -> room.getChildren().setAll(area));
        hand.await("the lines again", () -> area.area().getParagraphs().size() > LINES && !area.isFilling());
        hand.picture();
    }

    private int firstInView() {
        return Hand.on(() -> area.area().visibleParToAllParIndex(0));
    }

    @Test
    void theyAreThereAtOnceAsTheyWereWhileThereIsRoom() {
        show(text("all"));
        Hand.run(() -> area.goTo(9_000));
        hand.picture();
        CodeArea before = area.area();
        int first = firstInView();
        assertThat(first).isBetween(8_900, 9_000);

        leave();
        assertThat(Hand.on(() -> area.text())).isEqualTo(text("all"));
        comeBack();

        assertThat(area.area()).isSameAs(before);
        assertThat(area.area().getId()).isEqualTo("lines");
        assertThat(firstInView()).isEqualTo(first);
        assertThat(Hand.on(() -> area.area().getSelectedText())).contains("<row>8999</row>");
    }

    private boolean isColoured() {
        CodeArea lines = area.area();
        int first = lines.visibleParToAllParIndex(0);
        return IntStream.range(first, first + lines.getVisibleParagraphs().size())
                .allMatch(p -> lines.getStyleSpans(p).getSpanCount() > 1);
    }

    @Test
    void linesThatAreColouredAlreadyAreNotMadeAnewWhenOthersComeIntoView() {
        show(text("all"));
        Hand.run(() -> area.goTo(9_000));
        hand.await("their colours", this::isColoured);
        hand.picture();
        List<Integer> starts = new ArrayList<>();
        Hand.run(() -> area.area().richChanges().subscribe(c -> starts.add(c.getPosition())));
        int below = Hand.on(() -> {
            int last = area.area()
                    .visibleParToAllParIndex(area.area().getVisibleParagraphs().size() - 1);
            area.area().scrollYBy(60);
            return area.area().getAbsolutePosition(last, 0);
        });
        hand.await("the colours of those", () -> !starts.isEmpty() && isColoured());
        assertThat(starts).allSatisfy(at -> assertThat(at).isGreaterThanOrEqualTo(below));
        Hand.run(() -> area.squiggle(List.of(new XmlArea.Squiggle(below, below + 5, "amiss"))));
        hand.await(
                "the mark",
                () -> area.area().getStyleSpans(below, below + 5).stream()
                        .allMatch(span -> span.getStyle().contains("squiggle")));
    }

    @Test
    void theyAreMadeAgainWhereOneWas() {
        show(text("all"));
        Hand.run(() -> area.goTo(9_000));
        hand.picture();
        CodeArea before = area.area();
        int first = firstInView();

        leave();
        gone.set(true);
        comeBack();

        assertThat(area.area()).isNotSameAs(before);
        hand.await("the same place", () -> Math.abs(area.area().visibleParToAllParIndex(0) - first) <= 1);
        assertThat(Hand.on(() -> area.area().getText())).isEqualTo(text("all"));
    }

    @Test
    void anotherTextThatCameMeanwhileIsShownFromItsStart() {
        show(text("all"));
        Hand.run(() -> area.goTo(9_000));
        leave();
        Hand.run(() -> area.show(text("other")));
        comeBack();

        assertThat(firstInView()).isZero();
        assertThat(Hand.on(() -> area.area().getText())).isEqualTo(text("other"));
    }

    @Test
    void aSmallTextStays() {
        Hand.run(() -> area.show("<a/>"));
        Hand.run(() -> room.getChildren().clear());
        Hand.run(() -> {});
        assertThat(Hand.on(() -> area.area().getText())).isEqualTo("<a/>");
        assertThat(kept.get()).isZero();
    }
}
