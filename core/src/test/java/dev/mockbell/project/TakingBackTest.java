package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.expression.Variable;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;

class TakingBackTest {
    private final Project before = Project.of(Path.of("x"), Settings.of("x"))
            .withCase(kept("a", "<a/>"))
            .withCase(kept("b", "<b/>"))
            .withSuite(new Suite("s", "S", List.of()));

    private static Case kept(String id, String body) {
        return new Case(id, id, "", "stay", "Book", "", body, List.of(), List.of(), List.of());
    }

    private static Project named(Project project, String... variables) {
        return project.with(project.settings()
                .withVariables(List.of(variables).stream()
                        .map(v -> new Variable(v, "1", false))
                        .toList()));
    }

    @Test
    void whatWasDeletedMadeAndChangedIsAsItWas() {
        Project after = before.withoutCase("stay/Book/a")
                .withCase(kept("c", "<c/>"))
                .withSuite(new Suite("s", "Another", List.of()));
        TakingBack back = TakingBack.of(before, after, after);
        assertThat(back.left()).isEmpty();
        assertThat(Part.all(back.project())).isEqualTo(Part.all(before));
        assertThat(back.parts())
                .extracting(p -> p.part().key() + (p.gone() ? " gone" : ""))
                .containsExactlyInAnyOrder("case stay/Book/a", "case stay/Book/c gone", "suite s");
        assertThat(Part.all(TakingBack.of(after, before, back.project()).project()))
                .as("and done again")
                .isEqualTo(Part.all(after));
    }

    @Test
    void whatWasChangedSinceStaysAndIsNamed() {
        Project after = before.withoutCase("stay/Book/a").withSuite(new Suite("s", "Another", List.of()));
        Project now = after.withSuite(new Suite("s", "A third", List.of())).withCase(kept("a", "<made>anew</made>"));
        TakingBack back = TakingBack.of(before, after, now);
        assertThat(back.parts()).isEmpty();
        assertThat(back.left()).containsExactlyInAnyOrder("The case “a”", "The suite “S”".replace("S", "Another"));
        assertThat(Part.all(back.project())).isEqualTo(Part.all(now));
    }

    @Test
    void ofTheSettingsOnlyWhatWasChangedGoesBack() {
        Project start = named(before, "nights", "beds");
        Project after = named(start, "nights");
        Project now = named(after, "nights", "towels");
        Settings back = TakingBack.of(start, after, now).project().settings();
        assertThat(back.variables()).extracting(Variable::name).containsExactlyInAnyOrder("nights", "beds", "towels");
    }
}
