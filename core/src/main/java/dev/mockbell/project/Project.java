package dev.mockbell.project;

import dev.mockbell.access.Profile;
import dev.mockbell.expression.Variable;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * All that a project folder holds, at one moment.
 *
 * @param troubles files that could not be read, a sentence each; they are left alone
 */
public record Project(
        Path folder,
        Settings settings,
        List<KeptContract> contracts,
        List<Case> cases,
        List<Suite> suites,
        List<MockPlan> mocks,
        List<LoadPlan> loads,
        List<KeptTap> taps,
        List<String> troubles) {
    /** A project with nothing in it but settings. */
    public static Project of(Path folder, Settings settings) {
        return new Project(
                folder, settings, List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());
    }

    public String name() {
        return settings.name();
    }

    public List<Environment> environments() {
        return settings.environments();
    }

    /** The name of the environment in use; empty for none. */
    public String environment() {
        return settings.environment();
    }

    public Optional<KeptContract> contract(String contractName) {
        return contracts.stream().filter(c -> c.name().equals(contractName)).findFirst();
    }

    public Optional<Case> kept(String reference) {
        return cases.stream().filter(c -> c.reference().equals(reference)).findFirst();
    }

    /** The cases of an operation in the order that a person gave them; the others behind, by their file's name. */
    public List<Case> cases(String contractName, String operation) {
        List<String> order = settings.caseOrder().getOrDefault(contractName + "/" + operation, List.of());
        return cases.stream()
                .filter(c -> c.contract().equals(contractName) && c.operation().equals(operation))
                .sorted(Comparator.comparingInt(c -> {
                    int at = order.indexOf(c.id());
                    return at < 0 ? Integer.MAX_VALUE : at;
                }))
                .toList();
    }

    /** With the cases of an operation in another order. */
    public Project withCaseOrder(String contractName, String operation, List<String> ids) {
        Map<String, List<String>> changed = new LinkedHashMap<>(settings.caseOrder());
        changed.put(contractName + "/" + operation, List.copyOf(ids));
        return with(settings.withCaseOrder(changed));
    }

    /** With other settings. */
    public Project with(Settings changed) {
        return new Project(folder, changed, contracts, cases, suites, mocks, loads, taps, troubles);
    }

    /** With variables of the environment in use in place of those it has. */
    public Project withEnvironmentVariables(List<Variable> changed) {
        Environment now = usedOrNew();
        return with(settings.withEnvironments(
                replaced(environments(), e -> e.name().equals(now.name()), now.withVariables(changed)), now.name()));
    }

    private Environment usedOrNew() {
        return current() == Environment.NONE ? new Environment("Local", Map.of(), List.of()) : current();
    }

    public Optional<Suite> suite(String idOrTitle) {
        return suites.stream()
                .filter(s -> s.id().equals(idOrTitle) || s.title().equals(idOrTitle))
                .findFirst();
    }

    public Optional<LoadPlan> load(String idOrTitle) {
        return loads.stream()
                .filter(l -> l.id().equals(idOrTitle) || l.title().equals(idOrTitle))
                .findFirst();
    }

    /**
     * The tap or forward proxy of that short name.
     *
     * @throws Problem when there is none
     */
    public KeptTap tap(String id) {
        return taps.stream()
                .filter(t -> t.id().equals(id))
                .findFirst()
                .orElseThrow(() -> Problem.input(
                        "The project keeps no tap “" + id + "”",
                        folder.toString(),
                        taps.isEmpty()
                                ? "It keeps none; start one with --keep NAME."
                                : "It keeps "
                                        + String.join(
                                                ", ",
                                                taps.stream().map(KeptTap::id).toList())
                                        + "."));
    }

    /** With other taps and forward proxies. */
    public Project withTaps(List<KeptTap> changed) {
        return new Project(folder, settings, contracts, cases, suites, mocks, loads, List.copyOf(changed), troubles);
    }

    /** With a tap or forward proxy in place of the one of its name, or one more. */
    public Project withTap(KeptTap changed) {
        return withTaps(replaced(taps, t -> t.id().equals(changed.id()), changed));
    }

    public Optional<MockPlan> mock(String contractName) {
        return mocks.stream().filter(m -> m.contract().equals(contractName)).findFirst();
    }

    /** The environment in use. */
    public Environment current() {
        return environments().stream()
                .filter(e -> e.name().equals(environment()))
                .findFirst()
                .orElse(Environment.NONE);
    }

    /**
     * With another environment in use.
     *
     * @throws Problem when there is none of that name
     */
    public Project in(String environmentName) {
        if (environments().stream().noneMatch(e -> e.name().equals(environmentName))) {
            String known = String.join(
                    ", ", environments().stream().map(Environment::name).toList());
            throw Problem.input(
                    "The project has no environment “" + environmentName + "”",
                    null,
                    known.isEmpty() ? "It has none at all." : "It has " + known + ".");
        }
        return with(settings.withEnvironments(environments(), environmentName));
    }

    public Project withCase(Case changed) {
        return with(
                contracts,
                replaced(cases, c -> c.reference().equals(changed.reference()), changed),
                suites,
                mocks,
                loads);
    }

    public Project withoutCase(String reference) {
        List<Case> left =
                cases.stream().filter(c -> !c.reference().equals(reference)).toList();
        return with(contracts, left, suites, mocks, loads);
    }

    public Project withSuite(Suite changed) {
        return with(contracts, cases, replaced(suites, s -> s.id().equals(changed.id()), changed), mocks, loads);
    }

    public Project withMock(MockPlan changed) {
        return with(
                contracts,
                cases,
                suites,
                replaced(mocks, m -> m.contract().equals(changed.contract()), changed),
                loads);
    }

    public Project withLoad(LoadPlan changed) {
        return with(contracts, cases, suites, mocks, replaced(loads, l -> l.id().equals(changed.id()), changed));
    }

    public Project withoutLoad(String id) {
        List<LoadPlan> left = loads.stream().filter(l -> !l.id().equals(id)).toList();
        return with(contracts, cases, suites, mocks, left);
    }

    public Project withoutSuite(String id) {
        List<Suite> left = suites.stream().filter(s -> !s.id().equals(id)).toList();
        return with(contracts, cases, left, mocks, loads);
    }

    Project withoutMock(String contractName) {
        List<MockPlan> left =
                mocks.stream().filter(m -> !m.contract().equals(contractName)).toList();
        return with(contracts, cases, suites, left, loads);
    }

    public Project withoutTap(String id) {
        return withTaps(taps.stream().filter(t -> !t.id().equals(id)).toList());
    }

    public Project withContract(KeptContract changed) {
        return with(replaced(contracts, c -> c.name().equals(changed.name()), changed), cases, suites, mocks, loads);
    }

    public Project withoutContract(String contractName) {
        List<KeptContract> left =
                contracts.stream().filter(c -> !c.name().equals(contractName)).toList();
        return with(left, cases, suites, mocks, loads);
    }

    /** All of it but the contracts, which take the most room. */
    public Project withoutContracts() {
        return with(List.of(), cases, suites, mocks, loads);
    }

    /**
     * With an address for a port in the environment in use; one is made when there is none.
     *
     * @param address empty to go by the contract again
     */
    public Project withEndpoint(String contractName, String port, String address) {
        Environment now = usedOrNew();
        Environment changed = now.withEndpoint(contractName + "/" + port, address);
        return with(settings.withEnvironments(
                replaced(environments(), e -> e.name().equals(now.name()), changed), now.name()));
    }

    /** The security profile of that name. */
    public Optional<Profile> profile(String name) {
        return settings.profiles().stream().filter(p -> p.name().equals(name)).findFirst();
    }

    /** With a security profile in place of the one of its name, or one more. */
    public Project withProfile(Profile changed) {
        return with(settings.withProfiles(
                replaced(settings.profiles(), p -> p.name().equals(changed.name()), changed)));
    }

    /** Whether calls in one of the environments may go over TLS. */
    public boolean mayGoOverTls(List<Environment> among) {
        Stream<String> contracts =
                contracts().stream().flatMap(k -> k.contract().ports().stream()).flatMap(p -> p.address().stream());
        Stream<String> cases = cases().stream().map(c -> c.delivery().endpoint());
        return Stream.of(among.stream().flatMap(e -> e.endpoints().values().stream()), contracts, cases)
                .flatMap(s -> s)
                .anyMatch(a -> a.regionMatches(true, 0, "https:", 0, 6));
    }

    /** With a security profile under another name, also where environments pick it. */
    public Project withProfileNamed(String old, String fresh) {
        List<Profile> renamed = settings.profiles().stream()
                .map(p -> p.name().equals(old) ? p.under(fresh) : p)
                .toList();
        List<Environment> picking = environments().stream()
                .map(e -> {
                    Environment now = e;
                    for (Map.Entry<String, String> picked : e.security().entrySet()) {
                        now = picked.getValue().equals(old) ? now.withSecurity(picked.getKey(), fresh) : now;
                    }
                    return now;
                })
                .toList();
        return with(settings.withProfiles(renamed).withEnvironments(picking, environment()));
    }

    /** Without a security profile, nor what picks it in an environment. */
    public Project withoutProfile(String name) {
        List<Environment> left = environments().stream()
                .map(e -> {
                    Environment now = e;
                    for (Map.Entry<String, String> picked : e.security().entrySet()) {
                        now = picked.getValue().equals(name) ? now.withSecurity(picked.getKey(), "") : now;
                    }
                    return now;
                })
                .toList();
        return with(settings.withProfiles(settings.profiles().stream()
                        .filter(p -> !p.name().equals(name))
                        .toList())
                .withEnvironments(left, environment()));
    }

    /**
     * With a security profile for a port in the environment in use; one is made when there is none.
     *
     * @param profile its name; empty for none
     */
    public Project withSecurity(String contractName, String port, String profile) {
        Environment now = usedOrNew();
        Environment changed = now.withSecurity(contractName + "/" + port, profile);
        return with(settings.withEnvironments(
                replaced(environments(), e -> e.name().equals(now.name()), changed), now.name()));
    }

    private Project with(
            List<KeptContract> newContracts,
            List<Case> newCases,
            List<Suite> newSuites,
            List<MockPlan> newMocks,
            List<LoadPlan> newLoads) {
        return new Project(folder, settings, newContracts, newCases, newSuites, newMocks, newLoads, taps, troubles);
    }

    private static <T> List<T> replaced(List<T> list, Predicate<T> same, T changed) {
        List<T> all = new ArrayList<>(list);
        for (int i = 0; i < all.size(); i++) {
            if (same.test(all.get(i))) {
                all.set(i, changed);
                return List.copyOf(all);
            }
        }
        all.add(changed);
        return List.copyOf(all);
    }
}
