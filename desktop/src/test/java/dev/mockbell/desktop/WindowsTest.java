package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.fleet.FleetSource;
import dev.mockbell.problem.Problem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import javafx.application.Platform;
import javafx.collections.ListChangeListener;
import javafx.stage.Stage;
import javafx.stage.Window;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A window is there while its project is read, and says what became of that. */
class WindowsTest {
    @TempDir
    private Path folder;

    private Windows windows;

    @BeforeEach
    void begin() {
        Toolkit.start();
        windows = new Windows(
                UserFolders.of(Map.of(), folder.resolve("home")), Clock.systemUTC(), Map.of(), mock(FleetSource.class));
    }

    private static List<Stage> stages() {
        return Hand.on(() -> Window.getWindows().stream()
                .filter(Stage.class::isInstance)
                .map(Stage.class::cast)
                .toList());
    }

    private Path unreadable(String name) throws Exception {
        Path project = Files.createDirectories(folder.resolve(name));
        Files.writeString(project.resolve("mockbell.yaml"), "format: 99\nname: From later\n");
        return project;
    }

    @Test
    void theWindowThatOpensIsTheOneThatSaidSo() throws Exception {
        CompletableFuture<MockBellWindow> opened = new CompletableFuture<>();
        CompletableFuture<String> first = new CompletableFuture<>();
        ListChangeListener<Window> listener = change -> {
            while (change.next()) {
                change.getAddedSubList()
                        .forEach(w -> first.complete(((Stage) w)
                                .getScene()
                                .getRoot()
                                .lookup(".label")
                                .toString()));
            }
        };
        Hand.run(() -> Window.getWindows().addListener(listener));
        windows.open(folder.resolve("northfell"), opened::complete);
        MockBellWindow window = opened.get(30, TimeUnit.SECONDS);
        Hand.run(() -> Window.getWindows().removeListener(listener));
        assertThat(first.get(1, TimeUnit.SECONDS)).contains("Opening “northfell”…");
        assertThat(stages()).hasSize(1);
        assertThat(Hand.on(() -> window.stage().getTitle())).isEqualTo("Mock Bell – northfell");
        assertThat(Hand.on(() -> window.stage().getScene().getRoot())).isSameAs(window.frame());
        Hand.run(() -> window.stage().hide());
        windows.closed().get(30, TimeUnit.SECONDS);
    }

    @Test
    void theFirstWindowSaysWhyAProjectCannotBeOpenedUntilItIsClosed() throws Exception {
        Path project = unreadable("later");
        CompletableFuture<Void> opening = CompletableFuture.runAsync(() -> windows.open(project, w -> {}));
        Hand hand = new Hand(only());
        hand.await("the reason", () -> hand.text("#not-opened").contains("newer"));
        assertThat(opening).isNotDone();
        assertThat(hand.text("#not-opened")).contains("mockbell.yaml");
        hand.click("#not-opened-close");
        assertThatThrownBy(() -> opening.get(30, TimeUnit.SECONDS))
                .isInstanceOf(ExecutionException.class)
                .hasCauseInstanceOf(Problem.class);
        assertThat(stages()).isEmpty();
        assertThat(project.resolve("mockbell.yaml")).hasContent("format: 99\nname: From later\n");
    }

    @Test
    void oneThatWasOpenBeforeIsOpenedInItsPlace() throws Exception {
        CompletableFuture<MockBellWindow> before = new CompletableFuture<>();
        windows.open(folder.resolve("northfell"), before::complete);
        MockBellWindow earlier = before.get(30, TimeUnit.SECONDS);
        Hand.run(() -> earlier.stage().hide());
        windows.closed().get(30, TimeUnit.SECONDS);
        begin();
        Path project = unreadable("later");
        CompletableFuture<MockBellWindow> opened = new CompletableFuture<>();
        CompletableFuture<Void> opening = CompletableFuture.runAsync(() -> windows.open(project, opened::complete));
        Hand hand = new Hand(only());
        hand.await("the reason", () -> hand.text("#not-opened").contains("newer"));
        hand.shoot(folder.resolve("not-opened.png"));
        hand.clickText("northfell  –  " + folder);
        MockBellWindow window = opened.get(30, TimeUnit.SECONDS);
        opening.get(30, TimeUnit.SECONDS);
        hand.await("one window", () -> Window.getWindows().size() == 1);
        assertThat(Hand.on(() -> window.stage().getTitle())).isEqualTo("Mock Bell – northfell");
        Hand.run(() -> window.stage().hide());
        windows.closed().get(30, TimeUnit.SECONDS);
    }

    private static Stage only() throws InterruptedException {
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(30);
        while (stages().isEmpty() && System.nanoTime() < until) {
            Thread.sleep(20);
        }
        assertThat(stages()).hasSize(1);
        return stages().get(0);
    }

    @Test
    void anotherProjectThatCannotBeOpenedIsToldInTheWindowThatIsThere() throws Exception {
        CompletableFuture<MockBellWindow> opened = new CompletableFuture<>();
        windows.open(folder.resolve("northfell"), opened::complete);
        MockBellWindow window = opened.get(30, TimeUnit.SECONDS);
        Path project = unreadable("later");
        assertThatThrownBy(() -> windows.open(project, w -> {})).isInstanceOf(Problem.class);
        assertThat(stages()).containsExactly(window.stage());
        Hand.run(() -> window.stage().hide());
        windows.closed().get(30, TimeUnit.SECONDS);
    }

    @Test
    void aWindowThatIsClosedBeforeItsProjectIsReadIsGone() throws Exception {
        ListChangeListener<Window> listener = change -> {
            while (change.next()) {
                change.getAddedSubList().forEach(w -> Platform.runLater(w::hide));
            }
        };
        Hand.run(() -> Window.getWindows().addListener(listener));
        CompletableFuture<MockBellWindow> opened = new CompletableFuture<>();
        windows.open(folder.resolve("northfell"), opened::complete);
        Hand.run(() -> Window.getWindows().removeListener(listener));
        windows.closed().get(30, TimeUnit.SECONDS);
        assertThat(opened).isNotDone();
        assertThat(stages()).isEmpty();
    }

    @Test
    void aProjectThatIsAskedForTwiceAtOnceHasOneWindow() throws Exception {
        CompletableFuture<MockBellWindow> opened = new CompletableFuture<>();
        Path project = folder.resolve("northfell");
        CompletableFuture<Void> one = CompletableFuture.runAsync(() -> windows.open(project, opened::complete));
        CompletableFuture<Void> two = CompletableFuture.runAsync(() -> windows.open(project, opened::complete));
        CompletableFuture.allOf(one, two).get(30, TimeUnit.SECONDS);
        MockBellWindow window = opened.get(30, TimeUnit.SECONDS);
        assertThat(stages()).hasSize(1);
        Hand.run(() -> window.stage().hide());
        windows.closed().get(30, TimeUnit.SECONDS);
    }
}
