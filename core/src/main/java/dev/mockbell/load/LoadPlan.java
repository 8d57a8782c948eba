package dev.mockbell.load;

import java.util.List;

/**
 * What load to make.
 *
 * @param suite the id of the suite whose steps are carried out, in order, at each arrival
 * @param endpoint where to send; empty for where the environment or the contract says
 * @param seconds how long work comes in; what is under way then is waited for
 * @param timeoutMillis how long to wait for one answer
 */
public record LoadPlan(
        String id,
        String title,
        String suite,
        String endpoint,
        LoadShape shape,
        int seconds,
        long timeoutMillis,
        List<Limit> limits) {
    public LoadPlan withShape(LoadShape other) {
        return new LoadPlan(id, title, suite, endpoint, other, seconds, timeoutMillis, limits);
    }

    public LoadPlan withSeconds(int other) {
        return new LoadPlan(id, title, suite, endpoint, shape, other, timeoutMillis, limits);
    }

    public LoadPlan withLimits(List<Limit> other) {
        return new LoadPlan(id, title, suite, endpoint, shape, seconds, timeoutMillis, List.copyOf(other));
    }

    public LoadPlan withSuite(String other) {
        return new LoadPlan(id, title, other, endpoint, shape, seconds, timeoutMillis, limits);
    }

    public LoadPlan withEndpoint(String other) {
        return new LoadPlan(id, title, suite, other, shape, seconds, timeoutMillis, limits);
    }
}
