package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Variable;
import dev.mockbell.project.Environments.Kind;
import dev.mockbell.project.Environments.Row;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class EnvironmentsTest {
    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();

    private Project project() {
        store.create(folder, "x");
        store.saveContract(folder, "stay", "Stay", Contracts.stay(), Instant.EPOCH);
        Settings settings = Settings.of("x")
                .withVariables(List.of(new Variable("nights", "2", false), new Variable("key", "", true)))
                .withEnvironments(
                        List.of(
                                new Environment("Local", Map.of("stay/StaySoap11", "http://h/1"), List.of()),
                                new Environment(
                                        "Test",
                                        Map.of("stay/StaySoap11", "http://h/1"),
                                        List.of(new Variable("nights", "5", false)),
                                        Map.of("stay", "Guide"))),
                        "Local");
        return store.open(folder).with(settings);
    }

    private static Row row(Project project, Kind kind, String name) {
        return Environments.rows(project).stream()
                .filter(r -> r.kind() == kind && r.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void rowsSayWhatEachHasAndWhatDiffers() {
        Project project = project();
        Row nights = row(project, Kind.VALUE, "nights");
        assertThat(nights.otherwise()).isEqualTo("2");
        assertThat(nights.cells()).containsExactly(Optional.empty(), Optional.of("5"));
        assertThat(nights.differs()).isTrue();
        assertThat(row(project, Kind.VALUE, "key").secret()).isTrue();
        Row address = row(project, Kind.ADDRESS, "stay/StaySoap11");
        assertThat(address.differs()).isFalse();
        assertThat(row(project, Kind.ADDRESS, "stay/StaySoap12").otherwise()).startsWith("http://");
        assertThat(row(project, Kind.SECURITY, "stay").cells()).containsExactly(Optional.empty(), Optional.of("Guide"));
        // what one says as the project does anyway is no difference
        Project same = Environments.said(project, "Test", nights, "2");
        assertThat(row(same, Kind.VALUE, "nights").differs()).isFalse();
    }

    @Test
    void whatAnEnvironmentSaysIsChangedAndTakenAway() {
        Project project = project();
        Project changed = Environments.said(project, "Local", row(project, Kind.VALUE, "nights"), "9");
        changed = Environments.said(changed, "Local", row(project, Kind.ADDRESS, "stay/StaySoap11"), "");
        changed = Environments.said(changed, "Local", row(project, Kind.SECURITY, "stay/StaySoap11"), "Guide");
        assertThat(changed.current().variables()).containsExactly(new Variable("nights", "9", false));
        assertThat(changed.current().endpoints()).isEmpty();
        assertThat(changed.current().security()).containsEntry("stay/StaySoap11", "Guide");
        changed = Environments.said(changed, "Local", row(changed, Kind.VALUE, "nights"), "");
        assertThat(changed.current().variables()).isEmpty();
    }

    @Test
    void oneIsCopiedRenamedMadeLiveAndTakenAwayAndKeptInTheFile() {
        Project project = Environments.live(project(), "Test", true);
        Project more = Environments.added(project, "Test", " Test 2 ");
        assertThat(more.current().name()).isEqualTo("Test 2");
        assertThat(more.current().variables()).containsExactly(new Variable("nights", "5", false));
        assertThat(more.current().live()).as("a copy of a live one is not").isFalse();
        store.saveSettings(more);
        Project read = store.open(folder);
        assertThat(read.settings().environments()).isEqualTo(more.environments());
        assertThat(read.environments())
                .filteredOn(Environment::live)
                .singleElement()
                .satisfies(e -> assertThat(e.name()).isEqualTo("Test"));
        Project renamed = Environments.renamed(more, "Test 2", "Trial");
        assertThat(renamed.environment()).isEqualTo("Trial");
        assertThatThrownBy(() -> Environments.renamed(more, "Test 2", "Local"))
                .hasMessageContaining("There is an environment “Local” already");
        assertThatThrownBy(() -> Environments.added(more, "", " ")).hasMessageContaining("has no name");
        Project left = Environments.without(renamed, "Trial");
        assertThat(left.environment()).isEqualTo("Local");
        assertThat(left.environments()).extracting(Environment::name).containsExactly("Local", "Test");
        Project without = Environments.without(renamed, "Local");
        assertThat(TakingBack.of(renamed, without, without).project().environments())
                .as("brought back at its place")
                .isEqualTo(renamed.environments());
    }
}
