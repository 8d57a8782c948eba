package dev.mockbell.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.load.Share;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The view models over a real desk. */
class ModelsTest {
    @TempDir
    Path folder;

    private Desktops desktop;

    @BeforeEach
    void open() throws IOException {
        desktop = new Desktops(folder);
        desktop.addContract();
    }

    @AfterEach
    void close() {
        desktop.close();
    }

    private void send() {
        var before = Hand.on(() -> desktop.models.call().calledProperty().get());
        Hand.run(() -> desktop.models.call().sendOrStop());
        desktop.hand.await(
                "an answer", () -> desktop.models.call().calledProperty().get() != before);
    }

    private List<FinderModel.Hit> find(String words) {
        return Hand.on(() -> new FinderModel(
                        desktop.desk,
                        desktop.models.call(),
                        desktop.models.check(),
                        desktop.models.traffic(),
                        () -> List.of(new FinderModel.Hit("action", "Ring the bell", "", () -> {})))
                .find(words));
    }

    @Test
    void theFinderFindsOperationsCasesSuitesActionsAndExchanges() {
        Hand.run(() -> desktop.models.call().add("Winter climb", false));
        Hand.run(() -> desktop.models.check().add("All climbs"));
        send();
        assertThat(find("winter")).extracting(FinderModel.Hit::kind).contains("case");
        assertThat(find("all climbs")).extracting(FinderModel.Hit::kind).containsExactly("suite");
        assertThat(find("ring")).extracting(FinderModel.Hit::title).containsExactly("Ring the bell");
        assertThat(find("exchange status 200")).hasSize(1);
        assertThat(find("climb")).extracting(FinderModel.Hit::kind).contains("operation");
        assertThat(find("zzz")).isEmpty();
    }

    @Test
    void theResponseShowsWhatStoodThereBefore() {
        Hand.run(() -> desktop.models.call().add("Twice", false));
        send();
        send();
        desktop.hand.await(
                "it is compared",
                () -> desktop.models.call().compared().previous().isPresent());
        String permit = Hand.on(() -> desktop.models.call().response().lines().stream()
                .map(Line::row)
                .filter(r -> r.label().equals("permit"))
                .map(r -> r.value() + " was "
                        + desktop.models
                                .call()
                                .compared()
                                .previous()
                                .orElseThrow()
                                .before(r.target().node())
                                .orElse("nothing"))
                .findFirst()
                .orElseThrow());
        assertThat(permit).matches("P-\\d+ was P-\\d+");
        assertThat(permit.split(" was ")[0]).isNotEqualTo(permit.split(" was ")[1]);
    }

    @Test
    void trafficListsOnlyWhatTheFilterLetsThrough() {
        send();
        Hand.run(() -> desktop.models.traffic().filterProperty().set(LedgerFilter.ALL.withOutcome(Outcome.FAULT)));
        desktop.hand.await("nothing", () -> desktop.models.traffic().listings().isEmpty());
        Hand.run(() -> desktop.models.traffic().filterProperty().set(LedgerFilter.ALL.withOutcome(Outcome.FINE)));
        desktop.hand.await("one", () -> desktop.models.traffic().listings().size() == 1);
        assertThat(Hand.on(() -> desktop.models.traffic().last("peaks", "Climb")))
                .isPresent();
        assertThat(Hand.on(() -> desktop.models.traffic().latest(5).size())).isEqualTo(1);
    }

    @Test
    void anExchangeOfAnotherProjectIsExplained() {
        send();
        var exchange = Hand.on(() -> desktop.models.call().exchange().orElseThrow());
        var foreign = new dev.mockbell.exchange.Exchange(
                0,
                exchange.started(),
                exchange.way(),
                "elsewhere",
                "Other",
                exchange.endpoint(),
                "",
                exchange.request(),
                exchange.response(),
                exchange.timing(),
                exchange.outcome(),
                "");
        Hand.run(() -> desktop.models.call().actions().open(foreign));
        assertThat(Hand.on(() -> desktop.desk.notices().get(0).text())).contains("No contract of the project knows");
    }

    @Test
    void aSuiteWithoutStepsIsNotRun() {
        Hand.run(() -> {
            desktop.models.check().add("Empty");
            desktop.models.check().runOrStop();
        });
        assertThat(Hand.on(() -> desktop.desk.notices().get(0).text())).contains("no steps");
        assertThat(Hand.on(() -> desktop.models.check().runningProperty().get()))
                .isFalse();
    }

    @Test
    void aLoadPlanWithoutItsSuiteIsExplained() {
        Hand.run(() -> {
            desktop.models.check().add("Soon gone");
            desktop.models.load().add(desktop.desk.project().suites().get(0));
            desktop.models
                    .load()
                    .keep(desktop.models.load().planProperty().get().withMix(List.of(Share.ofSuite("gone"))));
            desktop.models.load().startOrStop();
        });
        desktop.hand.await("why not", () -> !desktop.desk.notices().isEmpty());
        assertThat(Hand.on(() -> desktop.desk.notices().get(0).text())).contains("no suite “gone”");
        Hand.run(() -> desktop.models.load().report());
        assertThat(Hand.on(() -> desktop.desk.notices().get(1).text())).contains("no finished run");
    }

    @Test
    void anImportThatFailsCanBeTriedAgain() {
        Hand.run(() -> desktop.desk.importContract("http://127.0.0.1:1/x?wsdl"));
        desktop.hand.await("the notice", () -> !desktop.desk.notices().isEmpty());
        Notice notice = Hand.on(() -> desktop.desk.notices().get(0));
        assertThat(notice.text()).contains("Nothing answers at 127.0.0.1:1").contains("Check the address");
        assertThat(notice.action().orElseThrow().words()).isEqualTo("Try again");
        assertThat(Hand.on(() -> desktop.desk.contracts().progressProperty().get()))
                .isEmpty();
    }

    @Test
    void theSameContractTwiceGetsNamesOfItsOwn() {
        Hand.run(() -> desktop.desk.importContract(desktop.wsdl.toString()));
        desktop.hand.await("both", () -> desktop.desk.project().contracts().size() == 2);
        assertThat(Hand.on(() -> desktop.desk.project().contracts().stream()
                        .map(c -> c.name())
                        .toList()))
                .containsExactly("peaks", "peaks-2");
    }

    @Test
    void workReportsBackOnTheInterfaceThreadAndProblemsToo() throws InterruptedException {
        List<String> told = new ArrayList<>();
        CountDownLatch done = new CountDownLatch(3);
        try (Tasks tasks = new Tasks(javafx.application.Platform::runLater)) {
            tasks.run(
                    () -> "worked on " + Thread.currentThread().getName(),
                    r -> {
                        told.add(r + ", told on " + javafx.application.Platform.isFxApplicationThread());
                        done.countDown();
                    },
                    p -> {});
            tasks.run(
                    () -> {
                        throw Problem.input("No", null, null);
                    },
                    r -> {},
                    p -> {
                        told.add(p.getMessage());
                        done.countDown();
                    });
            tasks.run(
                    () -> {
                        throw new IllegalStateException("odd");
                    },
                    r -> {},
                    p -> {
                        told.add(p.getMessage());
                        done.countDown();
                    });
            assertThat(done.await(60, TimeUnit.SECONDS)).isTrue();
            Hand.run(() -> {});
            assertThat(tasks.running()).isZero();
        }
        assertThat(told)
                .contains(
                        "worked on desk-work, told on true", "No.", "That did not work: odd. The log has the details.");
    }
}
