package dev.mockbell.fleet;

import dev.mockbell.expression.SecretHosts;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What workers are to do together. Its text never shows a secret.
 *
 * @param plan the whole
 * @param folder the project's; workers get its files
 * @param environment the one in use; empty for none
 * @param named what the plan times, and where it goes
 * @param secrets values by name; workers hold them in memory alone
 * @param secretHosts hosts that may have them
 * @param loadable which of the plan's hosts may get as much as the plan says
 */
public record FleetOrder(
        LoadPlan plan,
        Path folder,
        String environment,
        LoadEngine.Named named,
        Map<String, String> secrets,
        Set<String> secretHosts,
        Set<String> loadable,
        WhenLost whenLost) {
    public FleetOrder {
        secrets = Map.copyOf(secrets);
        secretHosts = Set.copyOf(secretHosts);
        loadable = Set.copyOf(loadable);
    }

    /**
     * Lets pass what means the same on every machine, and gives no secret to one that is not to have it.
     *
     * @param workers the hosts by which workers are reached
     * @throws Problem when the plan goes to loopback, and a worker is on another machine; of kind SECRET_WITHHELD when a
     *     worker's machine would be given secrets and is none that may have them
     */
    public void check(List<String> workers) {
        SecretHosts allowed = new SecretHosts(secretHosts);
        for (String host : workers) {
            if (!secrets.isEmpty() && !allowed.allows(host)) {
                throw Problem.of(
                        Problem.Kind.SECRET_WITHHELD,
                        "The worker at " + host
                                + " needs the project's secrets to make its part, and may not have them",
                        host,
                        "Allow it if that machine is yours (on the command line: --secrets-to " + host
                                + "). They stay in its memory.",
                        null);
            }
        }
        for (String host : named.hosts()) {
            if (SecretHosts.isLoopback(host) && !workers.stream().allMatch(SecretHosts::isLoopback)) {
                throw Problem.input(
                        "The plan goes to " + host + ", which on every machine is that machine itself",
                        plan.title(),
                        "Give the target's address in the network (on the command line: --endpoint).");
            }
        }
    }

    @Override
    public String toString() {
        return "order for " + plan.title();
    }
}
