package dev.mockbell.project;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.Inside;
import dev.mockbell.file.UserFolders;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.mock.MockTls;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.CertificateFile;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.wire.ServerTls;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.cert.X509Certificate;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Keys and secrets of this machine for the mocks of a project. The project's own authority is made when a mock first wants a
 * certificate of it, and kept in the user's configuration folder.
 */
public final class LocalKeys implements MockSurroundings.Keys {
    private static final Pattern SECRET = Pattern.compile("\\{\\$secret:([^{}]+)}");

    private final UserFolders user;
    private final LocalProjects locals;
    private final Optional<Path> folder;
    private final String title;
    private final Secrets secrets;
    private final Clock clock;

    /**
     * @param folder the project's; empty for a mock without one
     * @param title what the authority is called by
     */
    public LocalKeys(
            UserFolders user, LocalProjects locals, Optional<Path> folder, String title, Secrets secrets, Clock clock) {
        this.user = user;
        this.locals = locals;
        this.folder = folder;
        this.title = title;
        this.secrets = secrets;
        this.clock = clock;
    }

    /** The authority that issues to this project's mocks. */
    public synchronized Authority authority() {
        String known = folder.map(f -> locals.entered(f).id()).orElse("");
        String name = known.isEmpty() ? "mocks" : known;
        Path file = user.config().resolve("authorities").resolve(name + ".pem");
        if (Files.exists(file)) {
            Authority kept = Authority.read(file);
            if (kept.isValid(clock.instant())) {
                return kept;
            }
        }
        Authority made = Authority.made(title + " mocks", clock.instant());
        AtomicFile.privateFolder(file.getParent());
        AtomicFile.writePrivate(file, made.written());
        return made;
    }

    /** TLS for a host that clients know by that name, by a certificate that the authority issues for it. */
    public ServerTls issued(String host) {
        return ServerTls.of(authority().issue(host, clock.instant()), List.of());
    }

    @Override
    public ServerTls tls(MockTls tls, String host) {
        ClientKey.Opened key = tls.file().isBlank()
                ? authority().issue(host, clock.instant())
                : new ClientKey(file(tls.file()), secret(tls.password())).open();
        List<X509Certificate> authorities = !tls.asksClients()
                ? List.of()
                : tls.authorities().isBlank()
                        ? List.of(authority().certificate())
                        : CertificateFile.read(file(tls.authorities()));
        return ServerTls.of(key, authorities);
    }

    private Path file(String written) {
        Path base = folder.orElseThrow(() -> Problem.input(
                "The file " + written + " belongs to a project, and there is none here",
                null,
                "Start the mock with it."));
        return new Inside(base).resolve(base, written);
    }

    @Override
    public String secret(String written) {
        Matcher matcher = SECRET.matcher(written);
        StringBuilder text = new StringBuilder();
        while (matcher.find()) {
            String name = matcher.group(1);
            String value = secrets.value(folder.map(locals::of).orElse(LocalProject.UNKNOWN), name)
                    .orElseThrow(() -> Problem.input(
                            "The secret " + name + " is not known on this machine",
                            null,
                            "Set " + "MOCKBELL_SECRET_"
                                    + name.toUpperCase(java.util.Locale.ROOT).replaceAll("\\W", "_")
                                    + ", or type it in the window."));
            matcher.appendReplacement(text, Matcher.quoteReplacement(value));
        }
        return matcher.appendTail(text).toString();
    }
}
