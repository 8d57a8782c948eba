package dev.mockbell.cli;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * A project whose requests have values set in them, each where a request has its path.
 *
 * @param settings each {@code PATH=VALUE}
 */
record SetWorkbench(Workbench of, List<String> settings) implements Workbench {
    @Override
    public Case kept(String reference) {
        Case kept = of.kept(reference);
        for (String setting : settings) {
            kept = set(kept, setting).orElse(kept);
        }
        return kept;
    }

    private Optional<Case> set(Case kept, String setting) {
        Contract contract = of.contract(kept.contract());
        MessageOutline outline =
                MessageOutline.ofRequest(contract, kept.in(contract).operation());
        try {
            return Optional.of(CaseValues.set(outline, kept, List.of(setting)));
        } catch (Problem nothingThere) {
            return Optional.empty();
        }
    }

    /** @throws Problem when no request of the suites has one of the paths */
    void tell(List<Suite> suites) {
        for (String setting : settings) {
            boolean anywhere = suites.stream()
                    .flatMap(Suite::all)
                    .flatMap(s -> s.sends().stream())
                    .distinct()
                    .anyMatch(r -> reaches(r, setting));
            if (!anywhere) {
                throw Problem.input(
                        "No request of the suites has something at that path", setting, "Write --set PATH=VALUE.");
            }
        }
    }

    private boolean reaches(String reference, String setting) {
        try {
            return set(of.kept(reference), setting).isPresent();
        } catch (Problem gone) {
            return false;
        }
    }

    @Override
    public Contract contract(String name) {
        return of.contract(name);
    }

    @Override
    public Suite suite(String id) {
        return of.suite(id);
    }

    @Override
    public Optional<String> endpoint(String contract, String port) {
        return of.endpoint(contract, port);
    }

    @Override
    public Optional<Profile> profile(Case kept, String port) {
        return of.profile(kept, port);
    }

    @Override
    public Path folder() {
        return of.folder();
    }

    @Override
    public Scope variables() {
        return of.variables();
    }

    @Override
    public Scope variables(Case kept) {
        return of.variables(kept);
    }

    /** What is set for this run alone is another basis. */
    @Override
    public Function<Step, String> basis() {
        Function<Step, String> own = of.basis();
        String set = settings.isEmpty() ? "" : " " + Integer.toHexString(settings.hashCode());
        return step -> own.apply(step).isEmpty() ? "" : own.apply(step) + set;
    }

    @Override
    public String environment() {
        return of.environment();
    }
}
