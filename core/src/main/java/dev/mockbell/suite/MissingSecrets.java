package dev.mockbell.suite;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Which secrets a call needs that this machine has no values of, found without calling. */
final class MissingSecrets {
    private static final Pattern NAME = Pattern.compile("\\$secret:([\\p{L}_][\\p{L}\\p{N}_.-]*)");

    private MissingSecrets() {}

    /** A sentence on those that a case needs, its profile and address included; empty when it needs none. */
    static String of(Case kept, Workbench bench) {
        Set<String> missing = new TreeSet<>();
        for (String name : names(List.of(
                kept.body(),
                kept.soapHeaders(),
                kept.headers().toString(),
                kept.checks().toString(),
                kept.captures().toString()))) {
            // what stands outside braces means itself
            if (VariableUse.in(kept, Scope.SECRET + name)) {
                missing.add(name);
            }
        }
        port(kept, bench).ifPresent(port -> {
            bench.profile(kept, port).map(Profile::written).ifPresent(texts -> missing.addAll(names(texts)));
            bench.endpoint(kept.contract(), port).ifPresent(address -> missing.addAll(names(List.of(address))));
        });
        if (!missing.isEmpty()) {
            Scope scope = bench.variables(kept);
            missing.removeIf(name -> scope.variables().containsKey(Scope.SECRET + name));
        }
        if (missing.isEmpty()) {
            return "";
        }
        String first = missing.iterator().next();
        String which = missing.size() == 1
                ? "The secret “" + first + "” has no value on this machine"
                : "The secrets “" + String.join("”, “", missing) + "” have no values on this machine";
        return which + ". Give it one among the variables, or in the environment variable "
                + Expressions.environmentName(first) + ".";
    }

    private static Optional<String> port(Case kept, Workbench bench) {
        try {
            return bench.contract(kept.contract())
                    .operation(kept.operation(), kept.port().isEmpty() ? null : kept.port())
                    .map(BoundOperation::port)
                    .map(p -> p.name());
        } catch (Problem gone) {
            return Optional.empty();
        }
    }

    private static List<String> names(List<String> texts) {
        List<String> names = new ArrayList<>();
        for (String text : texts) {
            Matcher matcher = NAME.matcher(text);
            while (matcher.find()) {
                names.add(matcher.group(1));
            }
        }
        return names;
    }
}
