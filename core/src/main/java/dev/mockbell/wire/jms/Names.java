package dev.mockbell.wire.jms;

import dev.mockbell.problem.Problem;
import jakarta.jms.JMSException;
import java.util.Hashtable;
import java.util.regex.Pattern;
import javax.naming.Context;
import javax.naming.NamingException;
import javax.naming.spi.InitialContextFactory;

/**
 * What a provider knows by name. It is asked itself and nobody else: the JDK's own way to a name goes, for one that is an address,
 * to wherever that leads.
 */
final class Names {
    /** The scheme {@code java} is for names within a server, and leads nowhere. */
    private static final Pattern ADDRESS = Pattern.compile("(?i)(?!java:)[a-z][a-z0-9+.-]*:.*", Pattern.DOTALL);

    private final Context context;
    private final ClassLoader loader;

    private Names(Context context, ClassLoader loader) {
        this.context = context;
        this.loader = loader;
    }

    /** Something that is done by a provider. */
    interface Action<T, E extends Exception> {
        T run() throws E;
    }

    /**
     * The names of a provider.
     *
     * @param factory the class that makes its context
     * @param loader has that class
     * @throws Problem when it makes none
     */
    static Names of(String factory, Hashtable<String, String> environment, ClassLoader loader) {
        try {
            InitialContextFactory made = (InitialContextFactory)
                    loader.loadClass(factory).getDeclaredConstructor().newInstance();
            return new Names(within(loader, () -> made.getInitialContext(environment)), loader);
        } catch (NamingException | ReflectiveOperationException | LinkageError | RuntimeException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The provider's names cannot be looked up: " + Problem.reason(e),
                    factory,
                    "Check jndiInitialContextFactory and jndiURL.",
                    e);
        }
    }

    /**
     * What stands under a name.
     *
     * @param what it should be, in words
     * @param advice what helps when it is not there
     * @throws Problem when it is not there, is something else, or the name is an address
     */
    <T> T found(String name, Class<T> kind, String what, String advice) {
        if (ADDRESS.matcher(name).matches()) {
            throw Problem.input("The name of the " + what + " is an address, and is not followed", name, advice);
        }
        try {
            return kind.cast(within(loader, () -> context.lookup(name)));
        } catch (NamingException | LinkageError | RuntimeException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The provider knows no " + what + " of that name: " + Problem.reason(e),
                    name,
                    advice,
                    e);
        }
    }

    /** Does something with the provider's classes at hand, which it may look for by the thread. */
    <T> T within(Action<T, JMSException> action) throws JMSException {
        return within(loader, action);
    }

    private static <T, E extends Exception> T within(ClassLoader loader, Action<T, E> action) throws E {
        ClassLoader before = Thread.currentThread().getContextClassLoader();
        Thread.currentThread().setContextClassLoader(loader);
        try {
            return action.run();
        } finally {
            Thread.currentThread().setContextClassLoader(before);
        }
    }
}
