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
import java.util.regex.Pattern;

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
            if (!WHOLE_FORM.matcher(text).matches()) {
                throw UNLIKE;
            }
            return new BigInteger(text.startsWith("+") ? text.substring(1) : text);
        }
    },
    DECIMAL("decimal", "decimal") {
        @Override
        Comparable<?> read(String text) {
            if (!DECIMAL_FORM.matcher(text).matches()) {
                throw UNLIKE;
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
                default -> throw UNLIKE;
            };
        }
    },
    DATE("date", "date") {
        @Override
        Comparable<?> read(String text) {
            return LocalDate.parse(dated(text, '-'));
        }
    },
    TIME("time", "time") {
        @Override
        Comparable<?> read(String text) {
            return LocalTime.parse(dated(text, ':'));
        }
    },
    DATE_TIME("date-time", "date and time") {
        @Override
        Comparable<?> read(String text) {
            return LocalDateTime.parse(dated(text, '-'));
        }
    },
    MOMENT("moment", "date and time with zone") {
        @Override
        Comparable<?> read(String text) {
            return OffsetDateTime.parse(dated(text, '-'));
        }
    };

    private static final IllegalArgumentException UNLIKE = new Unlike();
    private static final Pattern WHOLE_FORM = Pattern.compile("[-+]?\\d{1,40}");
    private static final Pattern DECIMAL_FORM =
            Pattern.compile("[-+]?(\\d{1,60}(\\.\\d{0,60})?|\\.\\d{1,60})([eE][-+]?\\d{1,3})?");
    private static final Pattern NAMED_FORM = Pattern.compile("[-+]?0\\d.*");

    private final String code;
    private final String title;

    Type(String code, String title) {
        this.code = code;
        this.title = title;
    }

    abstract Comparable<?> read(String text);

    /** Refuses at a glance what the library would make a costly exception of. */
    private static String dated(String text, char sign) {
        boolean may = text.length() > 4
                && Character.isDigit(text.charAt(text.charAt(0) == '-' ? 1 : 0))
                && text.indexOf(sign) > 0;
        if (!may) {
            throw UNLIKE;
        }
        return text;
    }

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

    /** A text is none of a type, which is no error and asked very often. */
    private static final class Unlike extends IllegalArgumentException {
        private static final long serialVersionUID = 1L;

        @Override
        public Throwable fillInStackTrace() {
            return this;
        }
    }

    /** What all of some texts are, the narrowest type that holds; text where there are none. */
    static Type of(Iterable<String> texts) {
        boolean[] out = new boolean[values().length];
        out[TEXT.ordinal()] = true;
        int left = out.length - 1;
        boolean any = false;
        for (String text : texts) {
            if (left == 0) {
                break;
            }
            if (text == null || text.equals(Table.NIL) || text.isBlank()) {
                continue;
            }
            any = true;
            String value = text.strip();
            // 007 is a name, and so is 1 for yes
            boolean named = NAMED_FORM.matcher(value).matches();
            for (Type type : values()) {
                int i = type.ordinal();
                boolean not = !out[i]
                        && (named && type.isNumber()
                                || type == BOOLEAN && value.length() == 1
                                || type.value(value).isEmpty());
                if (not) {
                    out[i] = true;
                    left--;
                }
            }
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
