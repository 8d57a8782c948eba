package dev.mockbell.mock;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * How a mock behaves beside its answers.
 *
 * @param remembered what it remembers from the start, an expression for each name; those that only answers name begin with nothing
 * @param apart the names of which every caller has a value of his own
 * @param caller an XPath over the request that tells who calls; empty for the user name of a login, else the client's address
 * @param seed where chance starts, so that a run can be repeated
 * @param concealed operations that are left out of the contract served, and refused
 * @param paths where ports are instead of at the path of their own address, by the port's name
 * @param byForwarded whether the served contract says the host of X-Forwarded-Host, where a client sends one
 * @param rules what requests are checked for
 * @param limits how much is let in
 * @param tls whether it speaks TLS
 * @param stopAfter how many answers it gives before it stops; 0 to go on
 */
public record Conduct(
        Map<String, String> remembered,
        Set<String> apart,
        String caller,
        long seed,
        Set<String> concealed,
        Map<String, String> paths,
        boolean byForwarded,
        RequestRules rules,
        MockLimits limits,
        MockTls tls,
        long stopAfter) {
    public static final Conduct USUAL = new Conduct(
            Map.of(), Set.of(), "", 1, Set.of(), Map.of(), false, RequestRules.USUAL, MockLimits.USUAL, MockTls.OFF, 0);

    public Conduct {
        remembered = new LinkedHashMap<>(remembered);
        apart = new TreeSet<>(apart);
        concealed = new TreeSet<>(concealed);
        paths = new LinkedHashMap<>(paths);
    }

    /** With a value that is remembered from the start. */
    public Conduct remembering(String name, String initial) {
        Map<String, String> all = new LinkedHashMap<>(remembered);
        all.put(name, initial);
        return new Conduct(all, apart, caller, seed, concealed, paths, byForwarded, rules, limits, tls, stopAfter);
    }

    /** With a value that each caller has for himself, or not. */
    public Conduct apart(String name, boolean each) {
        Set<String> all = new TreeSet<>(apart);
        if (each) {
            all.add(name);
        } else {
            all.remove(name);
        }
        return new Conduct(remembered, all, caller, seed, concealed, paths, byForwarded, rules, limits, tls, stopAfter);
    }

    public Conduct knowingCallersBy(String expression) {
        return new Conduct(
                remembered, apart, expression, seed, concealed, paths, byForwarded, rules, limits, tls, stopAfter);
    }

    public Conduct withSeed(long other) {
        return new Conduct(
                remembered, apart, caller, other, concealed, paths, byForwarded, rules, limits, tls, stopAfter);
    }

    public Conduct concealing(Set<String> operations) {
        return new Conduct(
                remembered, apart, caller, seed, operations, paths, byForwarded, rules, limits, tls, stopAfter);
    }

    public Conduct at(Map<String, String> other) {
        return new Conduct(
                remembered, apart, caller, seed, concealed, other, byForwarded, rules, limits, tls, stopAfter);
    }

    public Conduct byForwarded(boolean other) {
        return new Conduct(remembered, apart, caller, seed, concealed, paths, other, rules, limits, tls, stopAfter);
    }

    /** As it is, but without TLS, and going on for as long as it is asked. */
    Conduct unseen() {
        return new Conduct(
                remembered, apart, caller, seed, concealed, paths, byForwarded, rules, limits, MockTls.OFF, 0);
    }

    public Conduct with(RequestRules other) {
        return new Conduct(
                remembered, apart, caller, seed, concealed, paths, byForwarded, other, limits, tls, stopAfter);
    }

    public Conduct with(MockLimits other) {
        return new Conduct(
                remembered, apart, caller, seed, concealed, paths, byForwarded, rules, other, tls, stopAfter);
    }

    public Conduct with(MockTls other) {
        return new Conduct(
                remembered, apart, caller, seed, concealed, paths, byForwarded, rules, limits, other, stopAfter);
    }

    public Conduct stoppingAfter(long answers) {
        return new Conduct(remembered, apart, caller, seed, concealed, paths, byForwarded, rules, limits, tls, answers);
    }

    /** Remembering other things from the start, of which some every caller has for himself. */
    public Conduct remembering(Map<String, String> initial, Set<String> each) {
        return new Conduct(initial, each, caller, seed, concealed, paths, byForwarded, rules, limits, tls, stopAfter);
    }
}
