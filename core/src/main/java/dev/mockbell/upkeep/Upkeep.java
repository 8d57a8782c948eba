package dev.mockbell.upkeep;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Half;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.Environment;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import dev.mockbell.project.TakingBack;
import dev.mockbell.task.StopSignal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * What of a project a contract's changes touch, and what can be done.
 *
 * @param kept the contract as the project has it
 */
public record Upkeep(KeptContract kept, ContractChanges changes, List<Touched> touched) {
    public Upkeep {
        touched = List.copyOf(touched);
    }

    /**
     * Looks through a project. Work, for many cases.
     *
     * @throws dev.mockbell.problem.Problem when stopped
     */
    public static Upkeep of(Project project, KeptContract kept, ContractChanges changes, StopSignal stop) {
        List<Touched> touched = new ArrayList<>();
        changes.byOperation().forEach((operation, all) -> {
            stop.check();
            if (!operation.isEmpty()) {
                touched.addAll(new OperationUpkeep(project, kept, changes, operation, all, stop).touched());
            }
        });
        loads(project, List.copyOf(touched), touched);
        endpoints(project, kept, changes, touched);
        return new Upkeep(kept, changes, touched);
    }

    private static void loads(Project project, List<Touched> found, List<Touched> into) {
        Map<String, List<Touched>> cases =
                found.stream().filter(t -> t.kind() == Touched.Kind.CASE).collect(Collectors.groupingBy(Touched::at));
        project.loads()
                .forEach(load -> load.mix().forEach(share -> {
                    List<String> sent = switch (share.kind()) {
                        case CASE -> List.of(share.of());
                        case SUITE ->
                            project.suite(share.of()).stream()
                                    .flatMap(s -> s.all())
                                    .flatMap(s -> s.sends().stream())
                                    .toList();
                    };
                    List<Touched> hit = sent.stream()
                            .distinct()
                            .flatMap(s -> cases.getOrDefault(s, List.of()).stream())
                            .toList();
                    if (!hit.isEmpty()) {
                        into.add(new Touched(
                                Touched.Kind.LOAD,
                                load.title(),
                                load.id(),
                                "sends " + hit.stream().map(Touched::name).collect(Collectors.joining(", ")),
                                hit.stream()
                                        .flatMap(t -> t.by().stream())
                                        .distinct()
                                        .toList(),
                                List.of(Way.LEAVE)));
                    }
                }));
    }

    private static void endpoints(Project project, KeptContract kept, ContractChanges changes, List<Touched> into) {
        for (ContractChange change : changes.changes()) {
            for (Environment environment :
                    change.half() == Half.ENDPOINT ? project.environments() : List.<Environment>of()) {
                environment
                        .endpoint(kept.name(), change.path())
                        .ifPresent(address -> into.add(new Touched(
                                Touched.Kind.ENVIRONMENT,
                                environment.name(),
                                environment.name(),
                                "overrides it with " + address,
                                List.of(change),
                                List.of(Way.LEAVE))));
            }
        }
    }

    /** What one change touches. */
    public List<Touched> by(ContractChange change) {
        return touched.stream().filter(t -> t.by().contains(change)).toList();
    }

    /** What one change touches, in few words: "2 cases, 1 known value"; "nothing". */
    public String words(ContractChange change) {
        return words(by(change));
    }

    /** How many there are of each kind. */
    public static String words(List<Touched> some) {
        Map<Touched.Kind, Long> counts = new EnumMap<>(Touched.Kind.class);
        some.forEach(t -> counts.merge(t.kind(), 1L, Long::sum));
        return counts.isEmpty()
                ? "nothing"
                : counts.entrySet().stream()
                        .map(e -> Counted.of(e.getValue(), e.getKey().noun()))
                        .collect(Collectors.joining(", "));
    }

    /** What is proposed for each, where something is. */
    public Map<Touched, Way> proposals() {
        return touched.stream()
                .filter(t -> t.proposal().isPresent())
                .collect(Collectors.toMap(t -> t, t -> t.ways().get(0), (a, b) -> a, java.util.LinkedHashMap::new));
    }

    /** The project with the contract as it is now, and what was chosen for each that is touched done. */
    public Project taken(Project project, KeptContract fresh, Map<Touched, Way> chosen) {
        Project now = project.withContract(fresh);
        for (Touched t : touched) {
            now = chosen.getOrDefault(t, Way.LEAVE).change().apply(now);
        }
        return now;
    }

    /**
     * Takes back what taking over did to the parts of a project, wherever they are still as that left them.
     *
     * @param before the project as it was
     * @param after as it was made
     * @param now as it is by now
     * @param kept the contract as it was
     */
    public static Project back(Project before, Project after, Project now, KeptContract kept) {
        return TakingBack.of(before, after, now).project().withContract(kept);
    }
}
