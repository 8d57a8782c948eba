package dev.mockbell.suite;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Pattern;

/** What of a suite is known not to work before it is run, by the place of each step. The rest can be run. */
public final class Preflight {
    private static final Pattern CHANGING = Pattern.compile("\\$|bell:|current-|random|implicit-");

    private final Workbench bench;
    private final Expressions expressions;
    private final Map<StepPath, String> troubles = new LinkedHashMap<>();
    private final Deque<String> within = new ArrayDeque<>();

    private Preflight(Workbench bench, Expressions expressions) {
        this.bench = bench;
        this.expressions = expressions;
    }

    /** A sentence for each step that cannot be run. */
    public static Map<StepPath, String> of(Suite suite, Workbench bench, Expressions expressions) {
        Preflight looking = new Preflight(bench, expressions);
        looking.within.push(suite.id());
        suite.each((path, step) -> {
            String trouble = step.accept(looking.new Looking());
            if (!trouble.isEmpty() && step.on()) {
                looking.troubles.put(path, trouble);
            }
        });
        return looking.troubles;
    }

    /** What is wrong with each kind. */
    private final class Looking implements Step.Visitor<String> {
        @Override
        public String call(Step.Call step) {
            try {
                String missing = MissingSecrets.of(bench.kept(step.caseReference()), bench);
                return missing.isEmpty() && step.known().isPresent()
                        ? step.known().get().trouble()
                        : missing;
            } catch (Problem gone) {
                return gone.getMessage();
            }
        }

        @Override
        public String pause(Step.Pause step) {
            return "";
        }

        @Override
        public String group(Step.Group step) {
            return "";
        }

        @Override
        public String until(Step.Until step) {
            if (step.times() < 1) {
                return "The step is to be repeated " + step.times() + " times. Write at least 1.";
            }
            return neverHolds(step.condition())
                    ? "The condition “" + step.condition() + "” can never hold, whatever the answers say."
                    : "";
        }

        /** One that looks at nothing, and asks neither chance nor the clock nor a counter, gives the same each time. */
        private boolean neverHolds(String condition) {
            if (CHANGING.matcher(condition).find()) {
                return false;
            }
            try {
                return !expressions.holds(condition, Scope.EMPTY);
            } catch (Problem looksAtSomething) {
                return false;
            }
        }

        @Override
        public String suite(Step.RunSuite step) {
            try {
                Suite other = bench.suite(step.suite());
                if (within.contains(other.id())) {
                    return "The suites run each other: "
                            + String.join(" → ", (Iterable<String>) within::descendingIterator) + " → " + other.id()
                            + ". Take one of the steps out.";
                }
                within.push(other.id());
                try {
                    return other.all()
                            .filter(Step::on)
                            .filter(Step.RunSuite.class::isInstance)
                            .map(s -> s.accept(this))
                            .filter(t -> t.startsWith("The suites run each other"))
                            .findFirst()
                            .orElse("");
                } finally {
                    within.pop();
                }
            } catch (Problem gone) {
                return gone.getMessage();
            }
        }

        @Override
        public String choose(Step.Choose step) {
            return "";
        }

        @Override
        public String forEach(Step.ForEach step) {
            if (step.table().isPresent()) {
                return step.table().get().trouble();
            }
            return step.nodes().isBlank()
                    ? "It is not said what the steps are run for each of. Give a table or a path."
                    : "";
        }
    }
}
