package dev.mockbell.project;

import dev.mockbell.suite.Case;
import dev.mockbell.validation.Likeness;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Cases of an operation that their contract does not have any more, so that no station would show them.
 *
 * @param likest the operation of the contract whose name is most like; empty when none is like enough
 */
public record LostCases(KeptContract contract, String operation, List<Case> cases, Optional<String> likest) {
    private static final double LIKE = 0.5;

    /** All of a project, an entry an operation. */
    public static List<LostCases> of(Project project) {
        Map<String, List<Case>> lost = new LinkedHashMap<>();
        for (KeptContract kept : project.contracts()) {
            for (Case c : project.cases()) {
                boolean here = c.contract().equals(kept.name());
                if (here && !kept.contract().operations().containsKey(c.operation())) {
                    String key = kept.name() + "/" + c.operation();
                    lost.computeIfAbsent(key, k -> project.cases(kept.name(), c.operation()));
                }
            }
        }
        return lost.values().stream().map(cases -> of(project, cases)).toList();
    }

    private static LostCases of(Project project, List<Case> cases) {
        Case first = cases.get(0);
        KeptContract kept = project.contract(first.contract()).orElseThrow();
        Optional<String> likest = kept.contract().operations().keySet().stream()
                .filter(o -> Likeness.of(o, first.operation()) >= LIKE)
                .max(Comparator.comparingDouble(o -> Likeness.of(o, first.operation())));
        return new LostCases(kept, first.operation(), cases, likest);
    }

    /** What is so, a sentence. */
    public String sentence() {
        String many = cases.size() == 1 ? "The case “" + cases.get(0).title() + "” is" : cases.size() + " cases are";
        return many + " of the operation " + operation + ", which " + contract.title()
                + " does not have any more. "
                + (cases.size() == 1 ? "It is" : "They are") + " kept in cases/" + contract.name() + "/" + operation
                + ".";
    }

    /** The project with the cases under the likest operation; names that are taken there get a number. */
    public Project moved(Project project) {
        Project now = project;
        for (Case c : cases) {
            now = now.withoutCase(c.reference());
        }
        for (Case c : moved(now.cases(contract.name(), likest.orElseThrow()))) {
            now = now.withCase(c);
        }
        return now;
    }

    /** The cases as they are under the likest operation, beside those that are there. */
    public List<Case> moved(List<Case> there) {
        Set<String> taken = new HashSet<>();
        there.forEach(c -> taken.add(c.id()));
        List<Case> moved = new ArrayList<>();
        for (Case c : cases) {
            String id = Names.free(c.id(), taken::contains);
            taken.add(id);
            moved.add(c.under(likest.orElseThrow(), id));
        }
        return moved;
    }
}
