package dev.mockbell.request;

import dev.mockbell.wire.CertificateFile;
import dev.mockbell.wire.ClientKey;
import java.nio.file.Path;
import java.security.cert.X509Certificate;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;

/** The files of keys and certificates that a profile names, each read once. Safe for many threads. */
public final class KeyFiles {
    private final Function<String, Path> own;
    private final Function<String, Path> others;
    private final Map<ClientKey, ClientKey.Opened> keys = new ConcurrentHashMap<>();
    private final Map<Path, List<X509Certificate>> certificates = new ConcurrentHashMap<>();

    /**
     * Both refuse what leads out of the project.
     *
     * @param own where the file of the client's key is that is written so
     * @param others where any other file is
     */
    public KeyFiles(Function<String, Path> own, Function<String, Path> others) {
        this.own = own;
        this.others = others;
    }

    /** @throws dev.mockbell.problem.Problem when there is no key that can be read */
    public ClientKey.Opened key(String file, String password) {
        return keys.computeIfAbsent(new ClientKey(own.apply(file), password), ClientKey::open);
    }

    /** @throws dev.mockbell.problem.Problem when there is no certificate that can be read */
    public List<X509Certificate> certificates(String file) {
        return certificates.computeIfAbsent(others.apply(file), CertificateFile::read);
    }
}
