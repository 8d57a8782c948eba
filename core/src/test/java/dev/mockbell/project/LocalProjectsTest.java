package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LocalProjectsTest {
    @TempDir
    Path folder;

    private LocalProjects locals() {
        return new LocalProjects(folder.resolve("config/projects.yaml"));
    }

    private Path project(String name) {
        Path at = folder.resolve(name);
        new ProjectStore().create(at, "Northfell");
        return at;
    }

    @Test
    void aProjectThatIsNewHereHasNothingAndLeavesNoTrace() {
        assertThat(locals().of(project("a"))).isEqualTo(LocalProject.UNKNOWN);
        assertThat(folder.resolve("config")).doesNotExist();
    }

    @Test
    void whatWasAllowedIsKnownAgain() {
        Path a = project("a");
        locals().allowHost(a, "API.Northfell.example");
        locals().allowListening(a, "0.0.0.0");
        LocalProject known = locals().of(a);
        assertThat(known.hosts()).containsExactly("api.northfell.example");
        assertThatCode(() -> known.checkListening("0.0.0.0")).doesNotThrowAnyException();
        locals().refuseHost(a, "api.northfell.example");
        assertThat(locals().of(a).hosts()).isEmpty();
    }

    @Test
    void aProjectOfTheSameNameGetsNoneOfItsSecrets() {
        Path mine = project("mine");
        Secrets secrets = new Secrets(folder.resolve("config/secrets.yaml"), Map.of());
        secrets.keep(locals().entered(mine), "token", "t0p");
        Path foreign = project("foreign");
        assertThat(secrets.value(locals().of(mine), "token")).contains("t0p");
        assertThat(secrets.value(locals().of(foreign), "token")).isEmpty();
    }

    @Test
    void aFolderThatBringsAnIdAlongIsNewUntilTheUserSaysSo() throws IOException {
        Path mine = project("mine");
        locals().allowHost(mine, "api.example");
        Path copy = folder.resolve("copy");
        copied(mine, copy);
        LocalProject known = locals().of(copy);
        assertThat(known.id()).isEmpty();
        assertThat(known.hosts()).isEmpty();
        assertThat(known.formerly()).contains(mine.toRealPath());
        assertThat(locals().adopt(copy).hosts()).containsExactly("api.example");
        assertThat(locals().of(copy).hosts()).containsExactly("api.example");
    }

    private static void copied(Path from, Path to) throws IOException {
        try (Stream<Path> all = Files.walk(from)) {
            for (Path path : all.toList()) {
                Files.copy(path, to.resolve(from.relativize(path).toString()));
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"127.0.0.1", "127.3.2.1", "localhost", "::1", "[::1]"})
    void loopbackMayAlwaysBeListenedOn(String address) {
        assertThatCode(() -> LocalProject.UNKNOWN.checkListening(address)).doesNotThrowAnyException();
    }

    @ParameterizedTest
    @ValueSource(strings = {"0.0.0.0", "::", "192.168.1.4", "127.0.0.1.evil.example", "", "myhost", "127.0.0.256"})
    void anythingElseOnlyOnceItIsAllowed(String address) {
        assertThatThrownBy(() -> LocalProject.UNKNOWN.checkListening(address))
                .isInstanceOfSatisfying(
                        Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.LISTENING_REFUSED));
    }

    @Test
    void secretsGoWhereTheyAreAllowedAndNowhereElse() {
        var scope = dev.mockbell.expression.Scope.EMPTY
                .with(new SecretHosts(java.util.Set.of("api.example")))
                .withSecret("token", "t0p");
        Expressions expressions = new Expressions();
        assertThat(expressions.fill("{$secret:token}", scope.forHost("API.example.")))
                .isEqualTo("t0p");
        assertThat(expressions.fill("{$secret:token}", scope.forHost("127.0.0.1")))
                .isEqualTo("t0p");
        for (String written : new String[] {"{$secret:token}", "{$Q{urn:mockbell:secrets}token}"}) {
            assertThatThrownBy(() -> expressions.fill(written, scope.forHost("evil.example")))
                    .isInstanceOfSatisfying(Problem.class, p -> {
                        assertThat(p.kind()).isEqualTo(Problem.Kind.SECRET_WITHHELD);
                        assertThat(p.where()).contains("evil.example");
                        assertThat(p.getMessage()).doesNotContain("t0p");
                    });
        }
    }
}
