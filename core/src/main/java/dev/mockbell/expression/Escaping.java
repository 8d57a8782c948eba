package dev.mockbell.expression;

import dev.mockbell.xml.Markup;

/** What a value must be made into at the place where it is put (XML 1.0 §2.4, §2.7). */
public enum Escaping {
    /** The text as it is. */
    NONE,
    /** In an attribute's value, or elsewhere within a tag. */
    MARKUP,
    /** In XML text, where elements may stand too. */
    CONTENT,
    /** In a CDATA section. */
    CDATA;

    /** The value as it is written there. */
    public String of(String value) {
        return switch (this) {
            case NONE -> value;
            case CDATA -> value.replace("]]>", "]]]]><![CDATA[>");
            case MARKUP, CONTENT -> Markup.anywhere(value);
        };
    }
}
