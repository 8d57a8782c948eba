package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CalledEndpoint;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.load.Limit;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.lang.ref.WeakReference;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.atomic.AtomicBoolean;
import javafx.application.Platform;
import javafx.scene.control.TextField;
import javafx.stage.Stage;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Nothing that was edited is lost, however soon after it the program ends. */
class ClosingTest {
    private static final int ROUNDS = 200;

    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();
    private Path project;

    @BeforeEach
    void make() throws IOException {
        Toolkit.start();
        Path wsdl = Files.writeString(folder.resolve("peaks.wsdl"), Desktops.WSDL.formatted("http://127.0.0.1:1"));
        Contract contract = new ContractReader(DocumentFetcher.files(1 << 20))
                .read(wsdl.toString(), Progress.NONE, new StopSignal());
        project = folder.resolve("project");
        store.create(project, "Peaks");
        store.saveContract(project, "peaks", "Peaks", contract, Instant.EPOCH);
    }

    private Desk open() {
        return Desk.open(
                project, Platform::runLater, Clock.systemUTC(), UserFolders.of(Map.of(), folder.resolve("home")));
    }

    @Test
    void editsOfAllKindsOutliveAnEndAtAnyMoment() throws InterruptedException {
        Random random = new Random(3);
        for (int round = 0; round < ROUNDS; round++) {
            Desk desk = Hand.on(this::open);
            Models models = Hand.on(() -> Models.of(desk));
            String mark = "round-" + round;
            Hand.run(() -> edit(models, mark));
            Thread.sleep(random.nextInt(6));
            Hand.run(desk::settle);
            desk.close();
            Project read = store.open(project);
            assertThat(read.troubles()).as(mark).isEmpty();
            assertThat(read.cases())
                    .as(mark)
                    .anySatisfy(c -> assertThat(c.body()).contains(mark));
            assertThat(read.suites())
                    .as(mark)
                    .anySatisfy(s -> assertThat(s.title()).isEqualTo("Suite " + mark));
            assertThat(read.loads())
                    .as(mark)
                    .anySatisfy(l -> assertThat(l.limits()).anyMatch(m -> m.bound() == mark.hashCode()));
            assertThat(read.mock("peaks").orElseThrow().of("Climb"))
                    .as(mark)
                    .anySatisfy(a -> assertThat(a.body()).contains(mark));
            assertThat(read.current().endpoint("peaks", "Peaks11")).as(mark).contains("http://127.0.0.1/" + mark);
        }
    }

    private static void edit(Models models, String mark) {
        CallModel call = models.call();
        call.request()
                .replaceXml(call.request()
                        .xml()
                        .replaceFirst(">[^<]*</p:peak>", ">" + mark + "</p:peak>")
                        .replaceFirst(">[^<]*</([a-z0-9]*:)?peak>", ">" + mark + "</$1peak>"));
        models.check().add("Suite " + mark);
        if (models.load().planProperty().get() == null) {
            models.load().add(models.check().suiteProperty().get());
        }
        models.load()
                .keep(models.load()
                        .planProperty()
                        .get()
                        .withLimits(List.of(new Limit(Limit.Measure.P95, mark.hashCode()))));
        models.mocks().edits().addMessage();
        models.mocks().edits().change(0, models.mocks().answers().get(0).withBody("<x>" + mark + "</x>"));
        call.endpoint().keep("http://127.0.0.1/" + mark, CalledEndpoint.For.ENVIRONMENT);
    }

    @Test
    void whatIsStillBeingTypedInAFieldIsKeptWhenTheWindowIsClosed() {
        Desk desk = Hand.on(this::open);
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        Hand hand = new Hand(window.stage());
        hand.press(javafx.scene.input.KeyCode.ALT, javafx.scene.input.KeyCode.DIGIT2);
        hand.click("#endpoint");
        TextField field = (TextField) hand.find("#endpoint").orElseThrow();
        Hand.run(() -> field.setText("http://127.0.0.1/typed"));
        Hand.run(() -> window.stage().hide());
        window.closed().join();
        assertThat(store.open(project).current().endpoint("peaks", "Peaks11")).contains("http://127.0.0.1/typed");
    }

    @Test
    void whatTheLastWorkCameToIsTakenBeforeTheWindowIsGone() {
        Desk desk = Hand.on(this::open);
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        AtomicBoolean taken = new AtomicBoolean();
        Hand.run(() -> {
            desk.inTurn(
                    () -> {
                        Thread.sleep(300);
                        return "done";
                    },
                    done -> {
                        // as slow as a change that is written here
                        sleep(300);
                        taken.set(true);
                    },
                    desk::tell);
            window.stage().hide();
        });
        window.closed().join();
        assertThat(taken).isTrue();
    }

    private static void sleep(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void aClosedWindowIsLetGoOf() throws IOException, InterruptedException {
        WeakReference<Desk> closed = openedAndClosed("first");
        // the toolkit of the tests holds the window that had the keyboard last
        openedAndClosed("second");
        long until = System.nanoTime() + 20_000_000_000L;
        while (closed.get() != null && System.nanoTime() < until) {
            System.gc();
            // what the toolkit holds is let go of in its next pulses
            Hand.run(() -> {});
            Thread.sleep(50);
        }
        assertThat(closed.get())
                .as("something holds a window that is closed, and all it showed")
                .isNull();
    }

    /** In a method of its own, so that no local variable holds it. */
    private WeakReference<Desk> openedAndClosed(String name) throws IOException {
        Path own = Files.createDirectory(folder.resolve(name));
        try (Desktops desktop = new Desktops(own)) {
            desktop.addContract();
            desktop.hand.press(javafx.scene.input.KeyCode.ALT, javafx.scene.input.KeyCode.DIGIT2);
            desktop.hand.type("#value-days", "3");
            desktop.hand.press(javafx.scene.input.KeyCode.CONTROL, javafx.scene.input.KeyCode.ENTER);
            desktop.hand.await(
                    "an answer", () -> desktop.models.call().calledProperty().get() != null);
            return new WeakReference<>(desktop.desk);
        }
    }
}
