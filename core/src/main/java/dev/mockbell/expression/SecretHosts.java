package dev.mockbell.expression;

import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Which hosts a project's secrets may be sent to. This machine itself may always have them; any other host only when the
 * user has named it here.
 *
 * @param hosts in small letters, without port
 */
public record SecretHosts(Set<String> hosts) {
    /** No host but this machine. */
    public static final SecretHosts NONE = new SecretHosts(Set.of());

    /** The environment variable that names further hosts, separated by commas. */
    public static final String VARIABLE = "MOCKBELL_SECRET_HOSTS";

    public SecretHosts {
        hosts = hosts.stream().map(SecretHosts::plain).collect(Collectors.toUnmodifiableSet());
    }

    /** These and those that the process's environment names. */
    public SecretHosts andOf(Map<String, String> environment) {
        Set<String> all = new TreeSet<>(hosts);
        Stream.of(environment.getOrDefault(VARIABLE, "").split("[,\\s]+"))
                .filter(h -> !h.isEmpty())
                .forEach(all::add);
        return new SecretHosts(all);
    }

    /** With one more. */
    public SecretHosts and(String host) {
        Set<String> all = new TreeSet<>(hosts);
        all.add(host);
        return new SecretHosts(all);
    }

    /** Whether a host may have secrets. */
    public boolean allows(String host) {
        return isLoopback(host) || hosts.contains(plain(host));
    }

    /** A host as it is compared: in small letters, without brackets and a final dot. */
    public static String plain(String host) {
        String bare = host.strip().toLowerCase(Locale.ROOT);
        bare = bare.startsWith("[") && bare.endsWith("]") ? bare.substring(1, bare.length() - 1) : bare;
        return bare.length() > 1 && bare.endsWith(".") ? bare.substring(0, bare.length() - 1) : bare;
    }

    /** Whether an address is this machine's own loopback, as it is written; no name is looked up. */
    public static boolean isLoopback(String host) {
        String bare = plain(host);
        return bare.equals("localhost")
                || bare.matches("127(\\.(25[0-5]|2[0-4]\\d|1?\\d?\\d)){3}")
                || bare.equals("::1")
                || bare.equals("0:0:0:0:0:0:0:1");
    }
}
