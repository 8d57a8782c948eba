package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contracts;
import dev.mockbell.suite.Case;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LostCasesTest {
    @TempDir
    Path folder;

    private Project project(Case... cases) {
        ProjectStore store = new ProjectStore();
        Project project = store.create(folder, "Huts");
        store.saveContract(folder, "stay", "Stay", Contracts.stay(), Instant.EPOCH);
        for (Case c : cases) {
            store.saveCase(folder, c);
        }
        return store.open(project.folder());
    }

    private static Case kept(String operation, String id) {
        return new Case(id, id, "", "stay", operation, "", "<a/>", List.of(), List.of(), List.of());
    }

    @Test
    void casesOfOperationsThatAreThereAreNotLost() {
        assertThat(LostCases.of(project(kept("Book", "a")))).isEmpty();
    }

    @Test
    void theOthersAreToldOfWithTheLikestOperationAndCanBeMovedThere() {
        Project project = project(kept("Booking", "a"), kept("Booking", "b"), kept("Book", "a"));
        LostCases lost = LostCases.of(project).get(0);
        assertThat(lost.likest()).contains("Book");
        assertThat(lost.sentence()).contains("2 cases").contains("Booking").contains("Stay");
        Project moved = lost.moved(project);
        assertThat(LostCases.of(moved)).isEmpty();
        assertThat(moved.cases("stay", "Book")).extracting(Case::id).containsExactly("a", "a-2", "b");
    }

    @Test
    void nothingIsProposedWhereNothingIsLike() {
        LostCases lost = LostCases.of(project(kept("Zzyzx", "a"))).get(0);
        assertThat(lost.likest()).isEmpty();
        assertThat(lost.sentence()).startsWith("The case “a” is of the operation Zzyzx");
    }
}
