package dev.mockbell.load;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What load to make.
 *
 * @param mix what is carried out, at each arrival one of it by weight
 * @param endpoint where to send; empty for where the environment or the contract says
 * @param shape how much comes in, over the time that it does; what is under way then is waited for
 * @param pauses how long is rested after each step
 * @param rows whose values are variables; empty for none
 */
public record LoadPlan(
        String id,
        String title,
        List<Share> mix,
        String endpoint,
        LoadShape shape,
        Pauses pauses,
        Optional<RowUse> rows,
        Conduct conduct,
        List<Limit> limits) {
    public LoadPlan {
        mix = List.copyOf(mix);
        limits = List.copyOf(limits);
    }

    /** One that carries out a suite, with the rest as usual. */
    public static LoadPlan of(String id, String title, String suite, LoadShape shape) {
        return new LoadPlan(
                id,
                title,
                List.of(Share.ofSuite(suite)),
                "",
                shape,
                Pauses.NONE,
                Optional.empty(),
                Conduct.USUAL,
                List.of());
    }

    /** How long work comes in. */
    public double seconds() {
        return shape.seconds();
    }

    public LoadPlan with(LoadShape other) {
        return new LoadPlan(id, title, mix, endpoint, other, pauses, rows, conduct, limits);
    }

    public LoadPlan with(Pauses other) {
        return new LoadPlan(id, title, mix, endpoint, shape, other, rows, conduct, limits);
    }

    public LoadPlan with(Conduct other) {
        return new LoadPlan(id, title, mix, endpoint, shape, pauses, rows, other, limits);
    }

    public LoadPlan withRows(Optional<RowUse> other) {
        return new LoadPlan(id, title, mix, endpoint, shape, pauses, other, conduct, limits);
    }

    public LoadPlan withMix(List<Share> other) {
        return new LoadPlan(id, title, other, endpoint, shape, pauses, rows, conduct, limits);
    }

    public LoadPlan withLimits(List<Limit> other) {
        return new LoadPlan(id, title, mix, endpoint, shape, pauses, rows, conduct, other);
    }

    public LoadPlan withEndpoint(String other) {
        return new LoadPlan(id, title, mix, other, shape, pauses, rows, conduct, limits);
    }

    public LoadPlan withTitle(String other) {
        return new LoadPlan(id, other, mix, endpoint, shape, pauses, rows, conduct, limits);
    }

    /** What is another in a plan than in this one, in words: what it is here → what it is there; empty when nothing is. */
    public List<String> differences(LoadPlan other) {
        List<String> found = new ArrayList<>();
        differ(found, "mix", words(mix), words(other.mix));
        differ(found, "endpoint", endpoint, other.endpoint);
        differ(found, "shape", shape.title(), other.shape.title());
        differ(found, "pauses", pauses.title(), other.pauses.title());
        differ(
                found,
                "rows",
                rows.map(RowUse::words).orElse(""),
                other.rows.map(RowUse::words).orElse(""));
        Map<String, String> conducts = other.conduct.words();
        conduct.words().forEach((what, here) -> differ(found, what, here, conducts.get(what)));
        differ(found, "limits", titles(limits), titles(other.limits));
        return found;
    }

    private static String words(List<Share> mix) {
        return String.join(
                ", ", mix.stream().map(s -> s.of() + " " + s.weight()).toList());
    }

    private static String titles(List<Limit> limits) {
        return String.join(", ", limits.stream().map(Limit::title).toList());
    }

    private static void differ(List<String> found, String what, String here, String there) {
        if (!here.equals(there)) {
            found.add(what + ": " + (here.isEmpty() ? "none" : here) + " → " + (there.isEmpty() ? "none" : there));
        }
    }
}
