package dev.mockbell.change;

/** How the messages that are valid now relate to those that were valid before. */
public enum Relation {
    /** The same ones are valid. */
    SAME(true, true),
    /** All that was valid is, and more. */
    WIDER(true, false),
    /** Less is valid, and nothing new. */
    NARROWER(false, true),
    /** Some that was valid is not any more, and some is that was not. */
    OTHER(false, false),
    /** It cannot be told without trying values. */
    UNKNOWN(true, true);

    private final boolean holdsOld;
    private final boolean heldByOld;

    Relation(boolean holdsOld, boolean heldByOld) {
        this.holdsOld = holdsOld;
        this.heldByOld = heldByOld;
    }

    /** By whether what was valid is valid still, and whether what is valid now was so before. */
    static Relation of(boolean oldIsValidNow, boolean newWasValid) {
        return oldIsValidNow ? newWasValid ? SAME : WIDER : newWasValid ? NARROWER : OTHER;
    }

    /** Whether all that was valid is valid still, as far as it can be told. */
    public boolean holdsOld() {
        return holdsOld;
    }

    /** Whether all that is valid was so before, as far as it can be told. */
    public boolean heldByOld() {
        return heldByOld;
    }

    /** That of two changes together. */
    Relation and(Relation other) {
        if (this == UNKNOWN || other == UNKNOWN) {
            Relation sure = this == UNKNOWN ? other : this;
            return sure == SAME ? UNKNOWN : sure;
        }
        return of(holdsOld && other.holdsOld, heldByOld && other.heldByOld);
    }
}
