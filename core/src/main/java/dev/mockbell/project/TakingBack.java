package dev.mockbell.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/**
 * Takes a change of a project back while it has gone on: each part that the change made, changed or took away is as it was before,
 * unless it became another since. Contracts are not among it, whose documents are moved by whoever changes them.
 *
 * @param project as it is then
 * @param parts those that are others than they were, by what they are then; what is gone again by what it was
 * @param left the titles of those that stay as they are, since they were changed after it
 */
public record TakingBack(Project project, List<ChangedPart> parts, List<String> left) {
    /**
     * Takes back what led from {@code before} to {@code after}.
     *
     * @param now the project as it is by now
     */
    public static TakingBack of(Project before, Project after, Project now) {
        Map<String, Part> was = Part.all(before);
        Map<String, Part> made = Part.all(after);
        Map<String, Part> here = Part.all(now);
        Project project = now;
        List<ChangedPart> parts = new ArrayList<>();
        List<String> left = new ArrayList<>();
        for (Change change : Change.between(before, after)) {
            String key = change.key();
            Optional<Part> then = back(was.get(key), made.get(key), here.get(key));
            boolean gone = !was.containsKey(key) && Objects.equals(here.get(key), made.get(key));
            if (then.isPresent()) {
                project = then.get().into(project);
                parts.add(new ChangedPart(then.get(), false));
            } else if (gone) {
                project = change.part().outOf(project);
                parts.add(new ChangedPart(change.part(), true));
            } else {
                left.add(change.part().title());
            }
        }
        return new TakingBack(project, List.copyOf(parts), List.copyOf(left));
    }

    /** The part as it is to be again; empty when it is not to be there, or is not what the change made it. */
    private static Optional<Part> back(Part was, Part made, Part here) {
        if (was != null
                && here != null
                && was.value() instanceof Settings before
                && made.value() instanceof Settings after
                && here.value() instanceof Settings now) {
            return SettingsMerge.of(after, before, now).map(Part::of);
        }
        return Objects.equals(made, here) ? Optional.ofNullable(was) : Optional.empty();
    }
}
