package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.Variable;
import dev.mockbell.suite.Case;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SecretsTest {
    @TempDir
    Path folder;

    private static LocalProject local(String id) {
        return new LocalProject(id, Set.of(), Set.of(), Set.of(), Optional.empty());
    }

    private Secrets secrets(Map<String, String> environment) {
        return new Secrets(folder.resolve("config/mockbell/secrets.yaml"), environment);
    }

    @Test
    void aValueIsKeptByProjectForItsOwnerAlone() throws Exception {
        Secrets secrets = secrets(Map.of());
        secrets.keep(local("Northfell Huts"), "token", "s: 3\n\"x\"");
        secrets.keep(local("Other"), "token", "else");
        assertThat(secrets(Map.of()).value(local("Northfell Huts"), "token")).contains("s: 3\n\"x\"");
        assertThat(secrets.value(local("Northfell Huts"), "nobody")).isEmpty();
        Path file = folder.resolve("config/mockbell/secrets.yaml");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
                .isEqualTo("rw-------");
        secrets.keep(local("Northfell Huts"), "token", "");
        assertThat(secrets.value(local("Northfell Huts"), "token")).isEmpty();
        assertThat(secrets.value(local("Other"), "token")).contains("else");
    }

    @Test
    void theProcessesEnvironmentComesFirst() {
        Secrets secrets = secrets(Map.of("MOCKBELL_SECRET_API_TOKEN", "from outside"));
        secrets.keep(local("p"), "api-token", "kept");
        assertThat(secrets.value(local("p"), "api-token")).contains("from outside");
    }

    @Test
    void aProjectHasItsNameButNeverItsValue() throws Exception {
        Secrets secrets = secrets(Map.of());
        secrets.keep(local("Huts"), "token", "t0p-s3cret");
        ProjectStore store = new ProjectStore();
        Path at = folder.resolve("project");
        Project project = store.create(at, "Huts");
        Settings settings = project.settings()
                .withVariables(List.of(new Variable("token", "t0p-s3cret", true), new Variable("nights", "2", false)));
        store.saveSettings(project.with(settings));
        try (Stream<Path> files = Files.walk(at)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                assertThat(Files.readString(file)).doesNotContain("t0p-s3cret");
            }
        }
        Project back = store.open(at);
        assertThat(back.settings().variables())
                .containsExactly(new Variable("token", "", true), new Variable("nights", "2", false));
        Scope scope = new ProjectBench(back, local("Huts"), secrets).variables();
        assertThat(new Expressions().fill("{$secret:token} {$nights}", scope)).isEqualTo("t0p-s3cret 2");
    }

    @Test
    void theCasesValueComesBeforeTheEnvironmentsBeforeTheProjects() {
        Settings settings = new Settings(
                "p",
                List.of(new Environment(
                        "e", Map.of(), List.of(new Variable("b", "env", false), new Variable("c", "env", false)))),
                "e",
                List.of(
                        new Variable("a", "project", false),
                        new Variable("b", "project", false),
                        new Variable("c", "project", false)),
                Map.of());
        Case kept = new Case("i", "t", "", "k", "o", "", "", List.of(), List.of(), List.of())
                .withVariables(List.of(new Variable("c", "case", false)));
        Scope scope = new ProjectBench(Project.of(folder, settings), local("p"), secrets(Map.of())).variables(kept);
        assertThat(new Expressions().fill("{$a} {$b} {$c}", scope)).isEqualTo("project env case");
    }

    @Test
    void casesStandInTheOrderThatAPersonGaveThem() {
        ProjectStore store = new ProjectStore();
        Project project = store.create(folder.resolve("project"), "Huts");
        for (String id : List.of("a", "b", "c", "d")) {
            Case kept = new Case(id, id, "", "k", "Do", "", "<a/>", List.of(), List.of(), List.of());
            store.saveCase(project.folder(), kept);
        }
        store.saveSettings(project.withCaseOrder("k", "Do", List.of("c", "a")));
        assertThat(store.open(project.folder()).cases("k", "Do"))
                .extracting(Case::id)
                .containsExactly("c", "a", "b", "d");
    }

    /** A keyring in files, which answers as the real command does. */
    private Map<String, String> desktopWithKeyring() throws Exception {
        Path bin = Files.createDirectories(folder.resolve("bin"));
        Path ring = Files.createDirectories(folder.resolve("ring"));
        Path tool = Files.writeString(bin.resolve("secret-tool"), """
                #!/bin/sh
                verb=$1; shift
                case "$1" in --label=*) shift;; esac
                file="%s/$2.$4"
                case "$verb" in
                  store) cat > "$file" ;;
                  lookup) [ -f "$file" ] && cat "$file" ;;
                  clear) rm -f "$file" ;;
                esac
                """.formatted(ring));
        Files.setPosixFilePermissions(tool, PosixFilePermissions.fromString("rwx------"));
        return Map.of("PATH", bin + ":/bin:/usr/bin", "DBUS_SESSION_BUS_ADDRESS", "unix:path=/nowhere");
    }

    @Test
    void theDesktopsKeyringHoldsWhatIsMovedThereAndTheFileSaysSoWithoutTheValue() throws Exception {
        Map<String, String> desktop = desktopWithKeyring();
        Path file = folder.resolve("config/mockbell/secrets.yaml");
        Secrets secrets = new Secrets(file, desktop, Keyring.of(desktop));
        assertThat(secrets.hasKeyring()).isTrue();
        secrets.keep(local("huts"), "token", "t0p\n \"s3cret\"");
        secrets.move(local("huts"), "token", true);
        assertThat(file).content().contains("keyring: true").doesNotContain("s3cret");
        assertThat(folder.resolve("ring/huts.token")).hasContent("t0p\n \"s3cret\"");
        Secrets later = new Secrets(file, desktop, Keyring.of(desktop));
        later.fetch(local("huts"));
        Files.delete(folder.resolve("bin/secret-tool"));
        assertThat(later.value(local("huts"), "token")).as("is at hand").contains("t0p\n \"s3cret\"");
        assertThat(later.source(local("huts"), "token")).contains("from the desktop's keyring");
        assertThat(new Secrets(file, desktop, Keyring.of(desktop)).value(local("huts"), "token"))
                .as("without its keyring it is missing")
                .isEmpty();
        assertThatThrownBy(() -> later.keep(local("huts"), "token", "else"))
                .hasMessageContaining("The desktop's keyring cannot be reached");
        desktopWithKeyring();
        later.keep(local("huts"), "token", "else");
        assertThat(folder.resolve("ring/huts.token")).hasContent("else");
        later.move(local("huts"), "token", false);
        assertThat(folder.resolve("ring/huts.token")).doesNotExist();
        assertThat(later.source(local("huts"), "token")).contains("from your own file of secrets");
        assertThat(later.value(local("huts"), "token")).contains("else");
    }

    @Test
    void withoutASessionThereIsNoKeyring() throws Exception {
        Map<String, String> desktop = desktopWithKeyring();
        assertThat(Keyring.of(Map.of("PATH", desktop.get("PATH"))).isThere()).isFalse();
        assertThat(Keyring.of(Map.of("PATH", "/nowhere:bin", "DBUS_SESSION_BUS_ADDRESS", "x"))
                        .isThere())
                .isFalse();
    }
}
