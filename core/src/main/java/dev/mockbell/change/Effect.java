package dev.mockbell.change;

import dev.mockbell.choice.Choice;

/** What a change does to one side. */
public enum Effect implements Choice {
    /** Whoever kept to the contract as it was may fail now. */
    BREAKS("breaks", "breaks"),
    /** It depends on how the side was made, or cannot be told from the contract alone. */
    MAY_BREAK("may-break", "may break"),
    /** It is as good as before. */
    HOLDS("holds", "holds"),
    /** Nothing of messages: where a service is, or how it is configured. */
    TO_KNOW("to-know", "to know");

    private final String code;
    private final String title;

    Effect(String code, String title) {
        this.code = code;
        this.title = title;
    }

    @Override
    public String code() {
        return code;
    }

    @Override
    public String title() {
        return title;
    }

    /**
     * What it does to those who write messages by the old contract, which are read by the new one.
     */
    static Effect onWriter(Relation relation) {
        return relation == Relation.UNKNOWN ? MAY_BREAK : relation.holdsOld() ? HOLDS : BREAKS;
    }

    /**
     * What it does to those who read by the old contract what is written by the new one.
     *
     * @param passedOver whether all that is new is an element or attribute beside those that were known, which many
     *     readers pass over
     */
    static Effect onReader(Relation relation, boolean passedOver) {
        return relation == Relation.UNKNOWN || !relation.heldByOld() && passedOver
                ? MAY_BREAK
                : relation.heldByOld() ? HOLDS : BREAKS;
    }
}
