package dev.mockbell.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Environment;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.request.Filler;
import dev.mockbell.suite.Case;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProfileTest {
    private static final URI HERE = URI.create("http://127.0.0.1:1/huts");
    private static final URI AWAY = URI.create("http://huts.northfell.example/huts");

    @TempDir
    private Path folder;

    private final Filler filler = Filler.of(
            new Expressions(),
            Scope.EMPTY
                    .with(new SecretHosts(Set.of()))
                    .withSecret("guest", "open sesame")
                    .withSecret("key", "/home/anna/anna.p12"));
    private final Profile guest =
            Profile.named("Guest").with(new Profile.Who(Profile.Way.WHEN_ASKED, "anna", "{$secret:guest}"));

    private Connect on(Profile profile, URI address) {
        return profile.on(Connect.USUAL, filler, address, folder);
    }

    @Test
    void aProfileGivesTheLoginItsSecretAndGivesItToNoOtherHost() {
        assertThat(on(guest, HERE).login()).contains(new Login.WhenAsked("anna", "open sesame"));
        assertThat(on(guest.with(new Profile.Who(Profile.Way.BEARER, "", "{$secret:guest}")), HERE)
                        .login())
                .contains(new Login.Bearer("open sesame"));
        assertThatThrownBy(() -> on(guest, AWAY))
                .isInstanceOfSatisfying(
                        Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.SECRET_WITHHELD));
    }

    @Test
    void itsFilesStayInTheProjectButWhatASecretNames() {
        Profile trusting = guest.with(new Profile.Trusted(List.of("ab".repeat(32)), List.of("trust/huts.pem")));
        assertThat(on(trusting, HERE).trust().authorities()).containsExactly(folder.resolve("trust/huts.pem"));
        assertThat(on(trusting, HERE).trust().fingerprints()).containsExactly("AB".repeat(32));
        assertThatThrownBy(() -> on(guest.with(new Profile.Trusted(List.of(), List.of("../outside.pem"))), HERE))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("leads out of the folder");
        assertThatThrownBy(() -> on(guest.with(new Profile.Own("/home/anna/anna.p12", "")), HERE))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("leads out of the folder");
        assertThat(on(guest.with(new Profile.Own("{$secret:key}", "x")), HERE)
                        .trust()
                        .client()
                        .orElseThrow()
                        .file())
                .isEqualTo(Path.of("/home/anna/anna.p12"));
    }

    @Test
    void aProxyThatReadsAlongGetsNoSecretsThatItMayNotHave() {
        Profile via = guest.with(new Profile.Via("proxy.elsewhere.example:3128", "", ""));
        assertThatThrownBy(() -> on(via, HERE))
                .isInstanceOfSatisfying(
                        Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.SECRET_WITHHELD));
        // over TLS it sees nothing
        Connect secure = on(via, URI.create("https://127.0.0.1:1/huts"));
        assertThat(secure.proxy(HERE).orElseThrow().address().toString()).contains("proxy.elsewhere.example");
        assertThat(secure.login()).contains(new Login.WhenAsked("anna", "open sesame"));
        Profile secretProxy = Profile.named("P").with(new Profile.Via("127.0.0.1:3128", "anna", "{$secret:guest}"));
        assertThat(on(secretProxy, AWAY).proxyLogin().orElseThrow().password()).isEqualTo("open sesame");
        Profile away = Profile.named("P").with(new Profile.Via("proxy.example:1", "anna", "{$secret:guest}"));
        assertThatThrownBy(() -> on(away, HERE)).isInstanceOf(Problem.class);
    }

    @Test
    void itIsKeptWithoutItsSecretAndPickedByPortAndByCase() throws Exception {
        ProjectStore store = new ProjectStore();
        Project made = store.create(folder.resolve("p"), "Huts")
                .withProfile(guest)
                .withProfile(Profile.named("Nobody"))
                .withSecurity("stay", "One", "Guest");
        store.saveSettings(made);
        String file = Files.readString(folder.resolve("p/mockbell.yaml"));
        assertThat(file)
                .contains("{$secret:guest}")
                .contains("login: whenAsked")
                .doesNotContain("clientPassword");
        Project read = store.open(folder.resolve("p"));
        assertThat(read.troubles()).isEmpty();
        assertThat(read.settings().profiles()).containsExactly(guest, Profile.named("Nobody"));
        ProjectBench bench = ProjectBench.unknown(read);
        Case kept = new Case("c", "C", "", "stay", "Book", "One", "", List.of(), List.of(), List.of());
        assertThat(bench.profile(kept, "One")).contains(guest);
        assertThat(bench.profile(kept, "Two")).isEmpty();
        assertThat(bench.profile(kept.withSecurity("Nobody"), "One")).contains(Profile.named("Nobody"));
        assertThatThrownBy(() -> bench.profile(kept.withSecurity("Gone"), "One"))
                .hasMessageContaining("no security profile “Gone”");
        Project without = read.withoutProfile("Guest");
        assertThat(without.environments()).extracting(Environment::security).allMatch(s -> s.isEmpty());
        store.saveSettings(without.withoutProfile("Nobody"));
        assertThat(Files.readString(folder.resolve("p/mockbell.yaml"))).doesNotContain("security");
    }
}
