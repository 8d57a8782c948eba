package dev.mockbell.table;

/**
 * A column.
 *
 * @param path from the row's element to the value: {@code total}, {@code address/city}, {@code @id}; {@code .} for its own text
 * @param name its title, and its name where it is written
 * @param type what its values are
 * @param kept whether the type was chosen, so that other data does not change it
 * @param shown whether it is one of those that are shown and written
 */
public record Column(String path, String name, Type type, boolean kept, boolean shown) {
    public Column withName(String other) {
        return new Column(path, other, type, kept, shown);
    }

    /** With a type that stays. */
    public Column withType(Type other) {
        return new Column(path, name, other, true, shown);
    }

    public Column shown(boolean other) {
        return new Column(path, name, type, kept, other);
    }

    /** With the type that its values have, where none was chosen. */
    Column typed(Type found) {
        return kept ? this : new Column(path, name, found, false, shown);
    }
}
