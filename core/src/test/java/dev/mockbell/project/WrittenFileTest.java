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
}
