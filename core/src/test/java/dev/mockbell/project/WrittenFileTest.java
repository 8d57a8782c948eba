package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.written.PastedTable;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenDocuments;
import dev.mockbell.written.WrittenRows;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class WrittenFileTest {
    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();

    private static WrittenContract lost() {
        return WrittenContract.named("Lost and found").with(WrittenRows.operations(PastedTable.read("""
                        Name	Type	How often	Limits	What it means
                        ReportItem	operation			Something: found
                        takes
                        item		1 to 20
                          kind	one of		007, 1.50, no
                          @wet	yes or no	may be left out
                        fails with UnknownHut
                        Discard	one-way
                        """)));
    }

    private KeptContract save(WrittenContract contract) {
        return store.saveWritten(
                folder, "lost", "Lost and found", contract, WrittenDocuments.of(contract), Instant.EPOCH);
    }

    @Test
    void theTableIsReadBackAsItWasWrittenAndTheContractIsThatOfItsDocuments() {
        store.create(folder, "Huts");
        KeptContract kept = save(lost());
        assertThat(kept.isWritten()).isTrue();
        assertThat(kept.contract().operations().keySet()).containsExactly("ReportItem", "Discard");
        assertThat(store.written(folder, "lost")).contains(lost());
        assertThat(StrictSchemas.flaws(folder, Path.of("..", "docs", "schemas")))
                .isEmpty();
        Project opened = store.open(folder);
        assertThat(opened.troubles()).isEmpty();
        assertThat(opened.contract("lost").orElseThrow().isWritten()).isTrue();
        assertThat(opened.contract("lost").orElseThrow().contract().documents()).hasSize(2);
    }

    @Test
    void anotherNameOfTheServiceLeavesNoFilesOfTheFormerOne() {
        store.create(folder, "Huts");
        save(lost());
        save(lost().withService("FoundAgain"));
        assertThat(folder.resolve("contracts/lost"))
                .isDirectoryContaining("glob:**/found-again.wsdl")
                .isDirectoryContaining("glob:**/found-again.xsd")
                .isDirectoryNotContaining("glob:**/lost-and-found.*");
    }

    @Test
    void aTableThatCannotBeReadIsToldOfAndAFetchedContractHasNone() throws IOException {
        store.create(folder, "Huts");
        save(lost());
        Files.writeString(folder.resolve("contracts/lost/written.yaml"), "format: 1\nsoap: [\"3\"]\n");
        assertThatThrownBy(() -> store.written(folder, "lost")).hasMessageContaining("written.yaml");
        assertThat(store.written(folder, "none")).isEmpty();
        assertThat(store.open(folder).contracts()).hasSize(1);
    }

    @Test
    void aTableThatAnotherProgramChangedMeanwhileIsNotWrittenOver() {
        store.create(folder, "Huts");
        save(lost());
        Optional<WrittenContract> seen = store.written(folder, "lost");
        WrittenContract theirs = lost().withService("Theirs");
        WrittenContract ours = lost().withService("Ours");
        save(theirs);
        var refused = store.saveWritten(
                folder, "lost", "Lost and found", seen, ours, WrittenDocuments.of(ours), Instant.EPOCH);
        assertThat(refused.kept()).isEmpty();
        assertThat(refused.theirs()).contains(theirs);
        assertThat(store.written(folder, "lost")).contains(theirs);
        assertThat(folder.resolve(".mockbell/versions/contracts/lost/written.yaml"))
                .content()
                .contains("service: Ours");
        var taken = store.saveWritten(
                folder, "lost", "Lost and found", Optional.of(theirs), ours, WrittenDocuments.of(ours), Instant.EPOCH);
        assertThat(taken.kept()).isPresent();
        assertThat(store.written(folder, "lost")).contains(ours);
    }

    @Test
    void thatAContractIsAnotherInTheFolderIsFoundByItsDocumentsAndItsTitle() {
        store.create(folder, "Huts");
        assertThat(store.contractIfOther(folder, "lost", Optional.empty())).isEmpty();
        KeptContract kept = save(lost());
        assertThat(store.contractIfOther(folder, "lost", Optional.of(kept))).isEmpty();
        assertThat(store.contractIfOther(folder, "lost", Optional.empty())
                        .orElseThrow()
                        .now())
                .as("one more")
                .isPresent();
        store.retitle(folder, "lost", "Found");
        assertThat(store.contractIfOther(folder, "lost", Optional.of(kept))
                        .orElseThrow()
                        .now()
                        .orElseThrow()
                        .title())
                .isEqualTo("Found");
        save(lost().withService("FoundAgain"));
        assertThat(store.contractIfOther(folder, "lost", Optional.of(kept))).isPresent();
        store.removeContract(folder, "lost");
        assertThat(store.contractIfOther(folder, "lost", Optional.of(kept))
                        .orElseThrow()
                        .now())
                .isEmpty();
    }
}
