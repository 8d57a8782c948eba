package dev.mockbell.cli;

import dev.mockbell.contract.ReadLimits;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.LoginAsker;
import dev.mockbell.wire.Proxies;
import dev.mockbell.xml.XmlLimits;
import java.net.ProxySelector;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Option;

/** The options of every command that fetches a contract: who asks, which way, and how much is taken. */
final class Reading {
    @Option(names = "--user", paramLabel = "NAME", description = "Who logs in when the address asks for it.")
    private String user;

    @Option(
            names = "--password-env",
            paramLabel = "VARIABLE",
            description = "The environment variable with the password; it is asked for on the terminal otherwise.")
    private String passwordVariable;

    @Option(
            names = "--token-env",
            paramLabel = "VARIABLE",
            description = "The environment variable with a bearer token for the address.")
    private String tokenVariable;

    @Option(
            names = "--proxy",
            paramLabel = "HOST:PORT",
            description =
                    "The HTTP proxy, or socks://HOST:PORT; http_proxy, https_proxy and no_proxy are heeded otherwise.")
    private String proxy;

    @Option(
            names = "--timeout",
            paramLabel = "SECONDS",
            description = "How long to wait for each document (30), and for all of a call (600).")
    private Double timeout;

    @Option(names = "--most-megabytes", paramLabel = "N", description = "Largest document that is taken (64).")
    private int megabytes = (int) (XmlLimits.CONTRACT.bytes() >> 20);

    @Option(names = "--most-documents", paramLabel = "N", description = "How many documents are taken (2000).")
    private int documents = ReadLimits.USUAL.documents();

    @Option(names = "--most-nesting", paramLabel = "N", description = "Deepest nesting of elements (1000).")
    private int nesting = XmlLimits.CONTRACT.depth();

    ReadLimits limits() {
        if (timeout != null && timeout <= 0 || megabytes < 1 || documents < 1 || nesting < 1) {
            throw Problem.input("A limit must be more than nothing", null, "Give a positive number.");
        }
        XmlLimits each = new XmlLimits(
                nesting, XmlLimits.CONTRACT.entityExpansions(), (long) megabytes << 20, XmlLimits.CONTRACT.doctype());
        return new ReadLimits(each, documents, timeout().orElse(ReadLimits.USUAL.timeout()));
    }

    /** The time that was asked for. */
    Optional<Duration> timeout() {
        return Optional.ofNullable(timeout).map(t -> Duration.ofMillis(Math.round(t * 1_000)));
    }

    ProxySelector proxies() {
        Map<String, String> environment = System.getenv();
        return proxy == null ? Proxies.ofEnvironment(environment) : Proxies.named(proxy);
    }

    LoginAsker asker() {
        return (address, challenge, again) -> again ? Optional.empty() : login();
    }

    /** Who logs in, as the options say; empty for nobody. */
    Optional<Login> login() {
        if (tokenVariable != null) {
            return Optional.of(new Login.Bearer(variable(tokenVariable)));
        }
        if (user == null) {
            return Optional.empty();
        }
        if (passwordVariable != null) {
            return Optional.of(new Login.WhenAsked(user, variable(passwordVariable)));
        }
        java.io.Console terminal = System.console();
        char[] typed = terminal == null ? null : terminal.readPassword("Password of %s: ", user);
        return typed == null ? Optional.empty() : Optional.of(new Login.WhenAsked(user, new String(typed)));
    }

    /**
     * The value of an environment variable.
     *
     * @throws Problem when there is none of that name
     */
    static String variable(String name) {
        String value = System.getenv(name);
        if (value == null) {
            throw Problem.input("There is no environment variable of that name", name, "Set it, then try again.");
        }
        return value;
    }
}
