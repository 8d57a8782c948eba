package dev.mockbell.table;

import dev.mockbell.choice.Choice;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.Comparator;
import java.util.Optional;

/** What the values of a column are. They are written as XML Schema does (Part 2, §3.2). */
public enum Type implements Choice {
    TEXT("text", "text") {
        @Override
        Comparable<?> read(String text) {
            return text;
        }
    },
    WHOLE("whole", "whole") {
        @Override
        Comparable<?> read(String text) {
            if (!text.matches("[-+]?\\d{1,40}")) {
                throw new NumberFormatException(text);
            }
            return new BigInteger(text.startsWith("+") ? text.substring(1) : text);
        }
    },
    DECIMAL("decimal", "decimal") {
        @Override
        Comparable<?> read(String text) {
            if (!text.matches("[-+]?(\\d{1,60}(\\.\\d{0,60})?|\\.\\d{1,60})([eE][-+]?\\d{1,3})?")) {
                throw new NumberFormatException(text);
            }
            return new BigDecimal(text);
        }
    },
    BOOLEAN("boolean", "yes or no") {
        @Override
        Comparable<?> read(String text) {
            return switch (text) {
                case "true", "1" -> true;
                case "false", "0" -> false;
                default -> throw new IllegalArgumentException(text);
            };
        }
    },
    DATE("date", "date") {
        @Override
        Comparable<?> read(String text) {
            return LocalDate.parse(text);
        }
    },
    TIME("time", "time") {
        @Override
        Comparable<?> read(String text) {
            return LocalTime.parse(text);
        }
    },
    DATE_TIME("date-time", "date and time") {
        @Override
        Comparable<?> read(String text) {
            return LocalDateTime.parse(text);
        }
    },
    MOMENT("moment", "date and time with zone") {
        @Override
        Comparable<?> read(String text) {
            return OffsetDateTime.parse(text);
        }
    };

    private final String code;
    private final String title;

    Type(String code, String title) {
        this.code = code;
        this.title = title;
    }

    abstract Comparable<?> read(String text);

    @Override
    public String code() {
        return code;
    }

    @Override
    public String title() {
        return title;
    }

    /** Whether its values stand at the right of their column. */
    public boolean isNumber() {
        return this == WHOLE || this == DECIMAL;
    }

    /** The value of a text; empty when the text is none of this type. */
    public Optional<Object> value(String text) {
        try {
            return Optional.of(read(this == TEXT ? text : text.strip()));
        } catch (IllegalArgumentException | DateTimeParseException other) {
            return Optional.empty();
        }
    }

    /** What all of some texts are, the narrowest type that holds; text where there are none. */
    static Type of(Iterable<String> texts) {
        boolean[] out = new boolean[values().length];
        boolean any = false;
        for (String text : texts) {
            if (text == null || text.equals(Table.NIL) || text.isBlank()) {
                continue;
            }
            any = true;
            // 007 is a name, and so is 1 for yes
            boolean named = text.strip().matches("[-+]?0\\d.*");
            for (Type type : values()) {
                int i = type.ordinal();
                out[i] |= type != TEXT
                        && (named && type.isNumber() || type.value(text).isEmpty());
            }
            out[BOOLEAN.ordinal()] |= text.strip().length() == 1;
        }
        if (!any) {
            return TEXT;
        }
        for (Type type : new Type[] {BOOLEAN, WHOLE, DECIMAL, DATE, TIME, DATE_TIME, MOMENT}) {
            if (!out[type.ordinal()]) {
                return type;
            }
        }
        return TEXT;
    }

    /** Orders texts of this type: by their values, behind these what is none, behind that what is not there. */
    Comparator<String> order() {
        return Comparator.comparing((String t) -> t == null || t.equals(Table.NIL) ? 2 : value(t).isEmpty() ? 1 : 0)
                .thenComparing(t -> t, (a, b) -> {
                    if (a == null || b == null) {
                        return 0;
                    }
                    Optional<Object> left = value(a);
                    Optional<Object> right = value(b);
                    return left.isPresent() && right.isPresent() ? compare(left.get(), right.get()) : a.compareTo(b);
                });
    }

    @SuppressWarnings("unchecked")
    private static int compare(Object left, Object right) {
        // both are of this type's class
        return ((Comparable<Object>) left).compareTo(right);
    }
}
