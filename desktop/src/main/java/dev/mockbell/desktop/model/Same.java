package dev.mockbell.desktop.model;

/** A thing by itself, not by what it holds: equality of whole messages would cost more than what is asked for. */
record Same<T>(T thing) {
    @Override
    public boolean equals(Object other) {
        return other instanceof Same<?> same && same.thing == thing;
    }

    @Override
    public int hashCode() {
        return System.identityHashCode(thing);
    }
}
