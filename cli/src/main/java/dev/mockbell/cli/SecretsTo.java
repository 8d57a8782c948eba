package dev.mockbell.cli;

import dev.mockbell.expression.SecretHosts;
import java.util.List;
import picocli.CommandLine.Option;

/** The option of every command that sends the requests of a project: which hosts may be given its secrets. */
final class SecretsTo {
    @Option(
            names = "--secrets-to",
            paramLabel = "HOST",
            description = {
                "Gives the project's secrets to this host too, this once; may be repeated. Known already are this machine,",
                "those allowed in the window, and those in the environment variable MOCKBELL_SECRET_HOSTS."
            })
    private List<String> hosts = List.of();

    SecretHosts and(SecretHosts known) {
        SecretHosts all = known;
        for (String host : hosts) {
            all = all.and(host);
        }
        return all;
    }
}
