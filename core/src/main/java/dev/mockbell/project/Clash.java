package dev.mockbell.project;

import java.util.Optional;

/**
 * A part that was changed here and by another program, so that one version has to be chosen. Ours is not written; it is kept
 * beside, with what belongs to this machine alone.
 *
 * @param ours what it is here; empty when it is gone here
 * @param theirs what is in the folder
 */
public record Clash(String key, Optional<Part> ours, Part theirs) {
    /** A sentence. */
    public String words() {
        return theirs.title() + " was " + (ours.isPresent() ? "changed" : "deleted")
                + " here and changed by another program. Nothing is overwritten.";
    }
}
