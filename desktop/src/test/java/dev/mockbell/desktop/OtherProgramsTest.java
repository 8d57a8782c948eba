package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.expression.Variable;
import dev.mockbell.file.UserFolders;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import javafx.application.Platform;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What other programs do in the folder of a project that a window has. */
class OtherProgramsTest {
    @TempDir
    private Path folder;

    private Desktops desktop;
    private Hand hand;

    @BeforeEach
    void open() throws Exception {
        desktop = new Desktops(folder);
        hand = desktop.hand;
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.await("the sheet", () -> hand.find("#value-days").isPresent());
        hand.type("#value-peak", "Skarn");
        hand.press(KeyCode.ENTER);
        hand.await("the case", () -> desktop.desk.project().cases().size() == 1);
        desktop.settled();
    }

    @AfterEach
    void close() {
        desktop.close();
    }

    private Case kept() {
        return new ProjectStore().open(desktop.project).cases().get(0);
    }

    private void byAnother(String peak) {
        Case now = kept();
        new ProjectStore()
                .saveCase(
                        desktop.project,
                        now.withBody(now.body().replaceAll(">[^<]*</p:peak>", ">" + peak + "</p:peak>")));
    }

    private String peak() {
        return hand.text("#value-peak");
    }

    @Test
    void whatAnotherProgramChangesAppearsAndWorkGoesOnFromThere() {
        byAnother("Wolfgill");
        hand.await("the other's value", () -> peak().equals("Wolfgill"));
        assertThat(hand.shows("was changed by another program.")).isTrue();
        hand.type("#value-peak", "Pillar");
        hand.press(KeyCode.ENTER);
        hand.await("ours on disk", () -> kept().body().contains(">Pillar<"));
        assertThat(desktop.desk.saver().clashes()).isEmpty();
        new ProjectStore()
                .saveSettings(desktop.desk
                        .project()
                        .with(desktop.desk
                                .project()
                                .settings()
                                .withVariables(List.of(new Variable("nights", "2", false)))));
        hand.await(
                "the variable",
                () -> desktop.desk.project().settings().variables().size() == 1);
        new ProjectStore().deleteCase(desktop.project, kept());
        hand.await(
                "its sample again",
                () -> desktop.desk.project().cases().isEmpty()
                        && Hand.on(() -> desktop.models.call().cases().get(0).title())
                                .equals("Sample"));
    }

    @Test
    void thatAnotherWindowHasTheProjectIsSaidAndBothGoOn() {
        Desk other = Hand.on(() -> Desk.open(
                desktop.project,
                Platform::runLater,
                Clock.systemUTC(),
                UserFolders.of(Map.of(), folder.resolve("home-of-another"))));
        assertThat(Hand.on(() -> List.copyOf(other.notices())))
                .anyMatch(n -> n.text().startsWith("Another window has this project too."));
        assertThat(hand.shows("Another window has this project too.")).isFalse();
        Hand.run(() ->
                other.change(p -> p.with(p.settings().withVariables(List.of(new Variable("nights", "2", false))))));
        hand.await(
                "the other's variable",
                () -> desktop.desk.project().settings().variables().size() == 1);
        hand.type("#value-peak", "Pillar");
        hand.press(KeyCode.ENTER);
        hand.await(
                "this one's case there",
                () -> other.project().cases().get(0).body().contains(">Pillar<"));
        Hand.run(other::settle);
        other.close();
    }

    @Test
    void manyThatAreChangedAtOnceAreTakenOverTogether() {
        ProjectStore store = new ProjectStore();
        Case now = kept();
        for (int i = 0; i < 300; i++) {
            store.saveCase(desktop.project, now.withName("many-" + i, "Many " + i));
        }
        hand.await("all", () -> desktop.desk.project().cases().size() == 301);
        assertThat(Hand.on(() -> desktop.models.call().cases().size())).isEqualTo(301);
        assertThat(Hand.on(() -> desktop.models.call().currentProperty().get().title()))
                .as("what is looked at stays")
                .isEqualTo(now.title());
        assertThat(Hand.on(() -> desktop.desk.notices().stream()
                        .filter(n -> n.text().endsWith("by another program."))
                        .count()))
                .isLessThan(2);
    }

    @Test
    void aContractThatAnotherProgramChangesAddsOrRemovesIsTakenOver() throws Exception {
        ProjectStore store = new ProjectStore();
        KeptContract kept = desktop.desk.project().contracts().get(0);
        Path later = folder.resolve("later.wsdl");
        Files.writeString(
                later,
                Files.readString(desktop.wsdl)
                        .replace("name=\"guide\" type=\"xs:string\"", "name=\"leader\" type=\"xs:string\""));
        Contract read = new ContractReader(DocumentFetcher.files(16 << 20))
                .read(later.toString(), Progress.NONE, new StopSignal());
        store.replaceContract(desktop.project, kept, read, Instant.EPOCH);
        hand.await("the other contract", () -> hand.find("#value-leader").isPresent() || hand.shows("leader"));
        assertThat(hand.shows("The contract “Peaks” was changed by another program."))
                .isTrue();
        assertThat(peak()).as("what was typed stays").isEqualTo("Skarn");
        store.saveContract(desktop.project, "second", "Second", read, Instant.EPOCH);
        hand.await("one more", () -> desktop.desk.project().contracts().size() == 2);
        Path aside = store.removeContract(desktop.project, kept.name());
        hand.await("one less", () -> desktop.desk.project().contracts().size() == 1);
        assertThat(aside).isDirectory();
        assertThat(Hand.on(() -> desktop.desk.placeProperty().get().contract().name()))
                .isEqualTo("second");
    }

    private void bothChange() {
        // the window's is there before it could hear of the other's
        Hand.run(() -> {
            byAnother("Wolfgill");
            Case now = desktop.models.call().currentProperty().get();
            desktop.models.call().keep(now.withBody(now.body().replace(">Skarn<", ">Pillar<")));
        });
        hand.await("both versions", () -> hand.shows("Nothing is overwritten."));
        desktop.settled();
        assertThat(kept().body()).contains(">Wolfgill<");
    }

    @Test
    void ofTwoVersionsTheOneInTheFolderIsTaken() {
        bothChange();
        hand.clickText("Choose a version…");
        hand.await("what differs", () -> hand.find("#version-folder").isPresent());
        assertThat(hand.shows("Pillar")).isTrue();
        assertThat(hand.shows("Wolfgill")).isTrue();
        shoot("versions");
        hand.press(KeyCode.ESCAPE);
        hand.await("the notice again", () -> hand.find("#version-folder").isEmpty() && hand.shows("Choose a version…"));
        hand.clickText("Choose a version…");
        hand.click("#version-folder");
        hand.await("theirs", () -> peak().equals("Wolfgill"));
        desktop.settled();
        assertThat(kept().body()).contains(">Wolfgill<");
        assertThat(desktop.desk.saver().clashes()).isEmpty();
    }

    @Test
    void ofTwoVersionsTheOneHereIsKept() {
        bothChange();
        hand.clickText("Choose a version…");
        hand.click("#version-here");
        hand.await("ours on disk", () -> kept().body().contains(">Pillar<"));
        desktop.settled();
        assertThat(Hand.on(() -> desktop.models.call().currentProperty().get().body()))
                .contains(">Pillar<");
        assertThat(hand.shows("Nothing is overwritten.")).isFalse();
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }
}
