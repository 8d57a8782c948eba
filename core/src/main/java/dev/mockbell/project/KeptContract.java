package dev.mockbell.project;

import dev.mockbell.contract.Contract;
import java.time.Instant;

/**
 * A contract as the project keeps it.
 *
 * @param name its short name, the folder under {@code contracts}
 * @param title for people
 * @param fetched when its documents were fetched
 */
public record KeptContract(String name, String title, Instant fetched, Contract contract) {}
