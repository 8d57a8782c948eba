package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StepBasisTest {
    private static final Case KEPT =
            new Case("book", "Book", "", "stay", "Book", "P", "<Book/>", List.of(), List.of(), List.of());

    @TempDir
    Path folder;

    private String basis(Case kept, Step step) {
        ProjectStore store = new ProjectStore();
        Project project =
                store.create(folder.resolve("p" + System.nanoTime()), "x").withCase(kept);
        return ProjectBench.unknown(project).basis().apply(step);
    }

    private static Step known(Step.Call step, String cell) {
        return step.with(
                Optional.of(new KnownValues(new DataTable("rows", List.of("a"), List.of(List.of(cell))), List.of())));
    }

    @Test
    void itIsAnotherWhenTheStepOrItsCaseIs() {
        Step.Call step = new Step.Call("Book", true, KEPT.reference(), Optional.empty());
        String own = basis(KEPT, step);
        assertThat(own).hasSize(16).isEqualTo(basis(KEPT, step));
        assertThat(List.of(
                        basis(KEPT.withChecks(List.of(new Check.NoFault())), step),
                        basis(KEPT.withBody("<Book><nights>2</nights></Book>"), step),
                        basis(KEPT, known(step, "1")),
                        basis(KEPT, known(step, "2"))))
                .doesNotContain(own)
                .doesNotHaveDuplicates();
    }

    @Test
    void aStepThatCallsNothingHasNone() {
        assertThat(basis(KEPT, new Step.Pause("Wait", true, 10))).isEmpty();
        assertThat(basis(KEPT, Step.call("Gone", "stay/Book/gone"))).isEmpty();
    }
}
