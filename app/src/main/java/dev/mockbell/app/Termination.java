package dev.mockbell.app;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.util.List;

/**
 * Has work done when the process is asked to end. A shutdown hook alone is too late for windows: the toolkit has one too, and
 * once that has run nothing reaches the interface thread any more. Signals have no interface that a compiler takes without a
 * warning, so it is called by name; where it is not there, the hook is left.
 */
final class Termination {
    private static final List<String> SIGNALS = List.of("TERM", "INT", "HUP");

    private Termination() {}

    /** @param work is safe to be run twice */
    static void before(Runnable work) {
        for (String name : SIGNALS) {
            try {
                on(name, work);
            } catch (ReflectiveOperationException notHere) {
                // this system has no such signal, or the machine keeps it to itself
                continue;
            }
        }
        Runtime.getRuntime().addShutdownHook(new Thread(work, "saving"));
    }

    /** @throws InvocationTargetException when the signal cannot be had */
    private static void on(String name, Runnable work) throws ReflectiveOperationException {
        Class<?> signals = Class.forName("sun.misc.Signal");
        Class<?> handlers = Class.forName("sun.misc.SignalHandler");
        Object signal = signals.getConstructor(String.class).newInstance(name);
        int number = (int) signals.getMethod("getNumber").invoke(signal);
        Object handler = Proxy.newProxyInstance(
                Termination.class.getClassLoader(), new Class<?>[] {handlers}, (proxy, method, arguments) -> {
                    work.run();
                    System.exit(128 + number);
                    return null;
                });
        signals.getMethod("handle", signals, handlers).invoke(null, signal, handler);
    }
}
