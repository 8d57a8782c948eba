package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** A secret that this machine has no value of is told before anything is sent. */
class MissingSecretsTest {
    private record Bench(Case only, Scope variables, Optional<Profile> profile, Optional<String> endpoint)
            implements Workbench {
        @Override
        public Contract contract(String name) {
            return Contracts.stay();
        }

        @Override
        public Case kept(String reference) {
            if (!reference.equals(only.reference())) {
                throw Problem.input("There is no case " + reference, null, null);
            }
            return only;
        }

        @Override
        public Optional<Profile> profile(Case kept, String port) {
            return profile;
        }

        @Override
        public Optional<String> endpoint(String contract, String port) {
            return endpoint;
        }

        @Override
        public String environment() {
            return "";
        }
    }

    private static Case kept(String body) {
        String operation = Contracts.stay().operations().keySet().iterator().next();
        return new Case("a", "a", "", "stays", operation, "", body, List.of(), List.of(), List.of());
    }

    private static String trouble(Bench bench) {
        Suite suite = new Suite("s", "S", List.of(Step.call("A", bench.only().reference())));
        return String.join(" ", Preflight.of(suite, bench, new Expressions()).values());
    }

    private static Bench bench(String body, Scope variables) {
        return new Bench(kept(body), variables, Optional.empty(), Optional.empty());
    }

    @Test
    void aSecretInTheRequestIsNamedWithWhatToDo() {
        assertThat(trouble(bench("<a>{$secret:token}</a>", Scope.EMPTY)))
                .isEqualTo("The secret “token” has no value on this machine. Give it one among the variables, or in the"
                        + " environment variable MOCKBELL_SECRET_TOKEN.");
        assertThat(trouble(bench("<a>{$secret:b}{concat($secret:a, 'x')}</a>", Scope.EMPTY)))
                .startsWith("The secrets “a”, “b” have no values on this machine.");
        assertThat(trouble(bench("<a>{$secret:token}</a>", Scope.EMPTY.withSecret("token", "x"))))
                .isEmpty();
    }

    @Test
    void whatOnlyLooksLikeOneIsNone() {
        assertThat(trouble(bench("<a>$secret:token and {{$secret:token}}</a>", Scope.EMPTY)))
                .isEmpty();
    }

    @Test
    void thoseOfTheProfileAndTheAddressAreNamedWhereTheyAreUsed() {
        Profile unused = Profile.named("Guest").with(new Profile.Who(Profile.Way.NONE, "", "{$secret:old}"));
        Profile used = Profile.named("Guest").with(new Profile.Who(Profile.Way.BASIC, "anna", "{$secret:password}"));
        Case plain = kept("<a/>");
        assertThat(trouble(new Bench(plain, Scope.EMPTY, Optional.of(unused), Optional.empty())))
                .isEmpty();
        assertThat(trouble(new Bench(
                        plain, Scope.EMPTY, Optional.of(used), Optional.of("https://huts.example/{$secret:tenant}"))))
                .startsWith("The secrets “password”, “tenant” have no values");
    }
}
