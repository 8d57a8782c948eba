package dev.mockbell.expression;

import java.util.function.IntPredicate;
import net.sf.saxon.str.UnicodeString;
import net.sf.saxon.z.IntIterator;

/**
 * A text that a regular expression is held against. Each look at a character is paid for, because a matcher that goes back
 * and forth may look at the same few of them without end.
 */
final class GuardedText extends UnicodeString {
    private final UnicodeString text;
    private final Budget budget;
    private int looks;

    GuardedText(UnicodeString text, Budget budget) {
        this.text = text;
        this.budget = budget;
    }

    UnicodeString text() {
        return text;
    }

    @Override
    public int codePointAt(long index) {
        if ((++looks & 0xFF) == 0) {
            budget.spend(1);
        }
        return text.codePointAt(index);
    }

    @Override
    public long length() {
        return text.length();
    }

    @Override
    public int getWidth() {
        return text.getWidth();
    }

    @Override
    public long indexOf(int codePoint, long from) {
        return text.indexOf(codePoint, from);
    }

    @Override
    public long indexWhere(IntPredicate predicate, long from) {
        return text.indexWhere(predicate, from);
    }

    @Override
    public IntIterator codePoints() {
        return text.codePoints();
    }

    @Override
    public UnicodeString substring(long start, long end) {
        return text.substring(start, end);
    }

    @Override
    public UnicodeString tidy() {
        return this;
    }

    @Override
    public String toString() {
        return text.toString();
    }
}
