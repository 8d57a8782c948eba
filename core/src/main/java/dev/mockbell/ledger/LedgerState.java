package dev.mockbell.ledger;

import java.util.Optional;

/**
 * How a ledger fares.
 *
 * @param lost exchanges that could not be written
 * @param bare exchanges whose bodies were left out, because more came than could be written
 * @param trouble why nothing can be written at present; empty when all is well
 */
public record LedgerState(long lost, long bare, Optional<String> trouble) {}
