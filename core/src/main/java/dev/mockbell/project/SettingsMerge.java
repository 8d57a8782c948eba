package dev.mockbell.project;

import dev.mockbell.access.Profile;
import dev.mockbell.expression.Variable;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;

/**
 * The settings of a project that were changed on two sides, taken together: each environment, variable, profile, filter and order
 * of cases is as the one side has it that changed it. They lie in one file, and have little to do with each other.
 */
final class SettingsMerge {
    private boolean clashes;

    private SettingsMerge() {}

    /** @return empty when both sides changed the same thing in different ways */
    static Optional<Settings> of(Settings base, Settings ours, Settings theirs) {
        SettingsMerge merge = new SettingsMerge();
        Settings merged = new Settings(
                merge.one(base.name(), ours.name(), theirs.name()),
                merge.named(base.environments(), ours.environments(), theirs.environments(), Environment::name),
                merge.one(base.environment(), ours.environment(), theirs.environment()),
                merge.named(base.variables(), ours.variables(), theirs.variables(), Variable::name),
                merge.map(base.caseOrder(), ours.caseOrder(), theirs.caseOrder()),
                merge.named(base.profiles(), ours.profiles(), theirs.profiles(), Profile::name),
                merge.named(base.filters(), ours.filters(), theirs.filters(), Settings.KeptFilter::name),
                merge.one(base.retention(), ours.retention(), theirs.retention()),
                true);
        return merge.clashes ? Optional.empty() : Optional.of(merged);
    }

    private <T> T one(T base, T ours, T theirs) {
        if (Objects.equals(ours, base)) {
            return theirs;
        }
        clashes |= !Objects.equals(theirs, base) && !Objects.equals(theirs, ours);
        return ours;
    }

    private <T> List<T> named(List<T> base, List<T> ours, List<T> theirs, Function<T, String> name) {
        return new ArrayList<>(map(byName(base, name), byName(ours, name), byName(theirs, name))
                .values());
    }

    private static <T> Map<String, T> byName(List<T> list, Function<T, String> name) {
        Map<String, T> map = new LinkedHashMap<>();
        list.forEach(t -> map.put(name.apply(t), t));
        return map;
    }

    /** In our order, with what is new on the other side behind. */
    private <T> Map<String, T> map(Map<String, T> base, Map<String, T> ours, Map<String, T> theirs) {
        Set<String> names = new LinkedHashSet<>(ours.equals(base) ? theirs.keySet() : ours.keySet());
        names.addAll(theirs.keySet());
        Map<String, T> merged = new LinkedHashMap<>();
        for (String name : names) {
            T value = one(base.get(name), ours.get(name), theirs.get(name));
            if (value != null) {
                merged.put(name, value);
            }
        }
        return merged;
    }
}
