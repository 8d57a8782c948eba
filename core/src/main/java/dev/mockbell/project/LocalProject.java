package dev.mockbell.project;

import dev.mockbell.expression.SecretHosts;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * What this machine's user has said of a project. None of it comes from the project's own files.
 *
 * @param id random, made on this machine; empty before anything was allowed or kept
 * @param hosts which secrets are given to
 * @param listening addresses beyond loopback that may be listened on
 * @param loaded hosts beyond loopback that may be put under load
 * @param formerly where the project was when it was known last, when it came here by being moved or copied
 */
public record LocalProject(
        String id, Set<String> hosts, Set<String> listening, Set<String> loaded, Optional<Path> formerly) {
    /** A project that is new to this machine. */
    public static final LocalProject UNKNOWN = new LocalProject("", Set.of(), Set.of(), Set.of(), Optional.empty());

    public LocalProject {
        hosts = Set.copyOf(hosts);
        listening = Set.copyOf(listening);
        loaded = Set.copyOf(loaded);
    }

    LocalProject withHost(String host) {
        Set<String> all = new TreeSet<>(hosts);
        all.add(SecretHosts.plain(host));
        return new LocalProject(id, all, listening, loaded, formerly);
    }

    LocalProject withoutHost(String host) {
        Set<String> all = new TreeSet<>(hosts);
        all.remove(SecretHosts.plain(host));
        return new LocalProject(id, all, listening, loaded, formerly);
    }

    LocalProject withListening(String address) {
        Set<String> all = new TreeSet<>(listening);
        all.add(address);
        return new LocalProject(id, hosts, all, loaded, formerly);
    }

    LocalProject withLoaded(String host) {
        Set<String> all = new TreeSet<>(loaded);
        all.add(SecretHosts.plain(host));
        return new LocalProject(id, hosts, listening, all, formerly);
    }

    /** Whether a host is this machine, or was confirmed as one that may be put under load. */
    public boolean mayLoad(String host) {
        return SecretHosts.isLoopback(host) || loaded.contains(SecretHosts.plain(host));
    }

    /**
     * Lets pass what is on loopback or allowed.
     *
     * @throws Problem of kind LISTENING_REFUSED for any other address
     */
    public void checkListening(String address) {
        if (!SecretHosts.isLoopback(address) && !listening.contains(address)) {
            throw Problem.of(
                    Problem.Kind.LISTENING_REFUSED,
                    "The project wants to listen on " + address + ", where others in the network can reach it",
                    address,
                    "Allow it on this machine if that is meant (on the command line: --host " + address
                            + "), or set the host to 127.0.0.1.",
                    null);
        }
    }
}
