package dev.mockbell.wire.jms;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Clients of other brokers, as jars that the user puts into a folder of his own. A project can name a provider and never bring
 * one.
 */
public final class ProviderJars {
    /** No provider but those that are in the program. */
    public static final ProviderJars NONE = new ProviderJars(Path.of("no-providers"));

    private final Path folder;
    private URLClassLoader loader;

    /** @param folder of the user; it need not be there */
    public ProviderJars(Path folder) {
        this.folder = folder;
    }

    /**
     * What loads a provider's class.
     *
     * @throws Problem when no jar of the user's has it
     */
    synchronized ClassLoader loaderOf(String name) {
        if (loader == null) {
            loader = new URLClassLoader(urls().toArray(URL[]::new), ProviderJars.class.getClassLoader());
        }
        String resource = name.replace('.', '/') + ".class";
        if (loader.findResource(resource) == null) {
            throw Problem.input(
                    "No jar of yours has the provider " + name,
                    folder.toString(),
                    "Put the jars of the broker's JMS client into that folder.");
        }
        return loader;
    }

    private List<URL> urls() {
        List<URL> found = new ArrayList<>();
        if (!Files.isDirectory(folder)) {
            return found;
        }
        try (Stream<Path> all = Files.list(folder)) {
            for (Path jar :
                    all.filter(p -> p.toString().endsWith(".jar")).sorted().toList()) {
                found.add(jar.toUri().toURL());
            }
        } catch (MalformedURLException e) {
            throw new IllegalStateException("a file always has an address", e);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The folder cannot be read", folder.toString(), "Check its rights.", e);
        }
        return found;
    }
}
