package dev.mockbell.project;

import dev.mockbell.contract.Contract;
import dev.mockbell.written.WrittenDocuments;
import java.time.Instant;

/**
 * A contract as the project keeps it.
 *
 * @param name its short name, the folder under {@code contracts}
 * @param title for people
 * @param fetched when its documents were fetched
 */
public record KeptContract(String name, String title, Instant fetched, Contract contract) {
    /** Whether it is written by hand here, and not fetched from anywhere. */
    public boolean isWritten() {
        return contract.source().startsWith(WrittenDocuments.SCHEME + ":");
    }
}
