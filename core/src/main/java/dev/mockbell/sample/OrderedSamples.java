package dev.mockbell.sample;

import dev.mockbell.schema.SimpleType;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import javax.xml.datatype.DatatypeConfigurationException;
import javax.xml.datatype.DatatypeFactory;
import javax.xml.datatype.XMLGregorianCalendar;

/** Values of types that have an order: usual ones first, then the bounds and what lies next to them. */
final class OrderedSamples {
    private static final DatatypeFactory DATATYPES = datatypes();

    private OrderedSamples() {}

    private static DatatypeFactory datatypes() {
        try {
            return DatatypeFactory.newInstance();
        } catch (DatatypeConfigurationException e) {
            throw new IllegalStateException("every Java has a datatype factory", e);
        }
    }

    static List<String> decimals(SimpleType type, String name, int variant) {
        List<BigDecimal> found = new ArrayList<>();
        String lower = name.toLowerCase(Locale.ROOT);
        boolean whole =
                !"decimal".equals(type.builtIn()) || type.fractionDigits().orElse(1) == 0;
        if (!whole) {
            found.add(new BigDecimal(lower.contains("lat") ? "66.12" : "92.25"));
        }
        found.add(new BigDecimal(lower.contains("age") ? 34 : lower.contains("year") ? 2027 : 2));
        int scale = whole ? 0 : Math.min(12, type.fractionDigits().orElse(2));
        BigDecimal step = BigDecimal.ONE.movePointLeft(scale);
        number(type.minInclusive()).ifPresent(v -> {
            found.add(v);
            found.add(v.setScale(scale, RoundingMode.CEILING));
        });
        number(type.minExclusive()).ifPresent(v -> {
            found.add(v.setScale(0, RoundingMode.FLOOR).add(BigDecimal.ONE));
            found.add(v.setScale(scale, RoundingMode.FLOOR).add(step));
        });
        number(type.maxInclusive()).ifPresent(v -> {
            found.add(v);
            found.add(v.setScale(scale, RoundingMode.FLOOR));
        });
        number(type.maxExclusive()).ifPresent(v -> {
            found.add(v.setScale(0, RoundingMode.CEILING).subtract(BigDecimal.ONE));
            found.add(v.setScale(scale, RoundingMode.CEILING).subtract(step));
        });
        found.add(BigDecimal.ZERO);
        found.add(BigDecimal.ONE);
        found.add(BigDecimal.ONE.negate());
        Stream<BigDecimal> varied = variant == 0
                ? Stream.empty()
                : found.stream()
                        .flatMap(v -> Stream.of(
                                v.add(BigDecimal.valueOf(variant)),
                                v.subtract(BigDecimal.valueOf(variant)),
                                v.add(step.multiply(BigDecimal.valueOf(variant)))));
        return Stream.concat(varied, found.stream())
                .map(BigDecimal::toPlainString)
                .distinct()
                .toList();
    }

    private static Optional<BigDecimal> number(Optional<String> facet) {
        return facet.map(String::strip).map(BigDecimal::new);
    }

    static List<String> floats(SimpleType type, int variant) {
        List<String> found = new ArrayList<>();
        found.add(variant == 0 ? "1.5" : variant + 1 + ".5");
        found.addAll(List.of("0", "1", "-1", "100"));
        List<String> bounds = new ArrayList<>();
        type.minInclusive().ifPresent(bounds::add);
        type.minExclusive().ifPresent(bounds::add);
        type.maxInclusive().ifPresent(bounds::add);
        type.maxExclusive().ifPresent(bounds::add);
        double sum = 0;
        for (String bound : bounds) {
            double v = value(bound);
            sum += v;
            found.add(bound);
            for (double d : new double[] {v + 1 + variant, v - 1 - variant, v * 1.01, v * 0.99, v + 0.001, v - 0.001}) {
                found.add(text(d));
            }
        }
        if (bounds.size() > 1) {
            found.add(text(sum / bounds.size()));
        }
        return found;
    }

    private static double value(String text) {
        return switch (text.strip()) {
            case "INF" -> Double.POSITIVE_INFINITY;
            case "-INF" -> Double.NEGATIVE_INFINITY;
            case "NaN" -> Double.NaN;
            default -> Double.parseDouble(text.strip());
        };
    }

    private static String text(double value) {
        if (Double.isInfinite(value)) {
            return value > 0 ? "INF" : "-INF";
        }
        return Double.toString(value);
    }

    static List<String> durations(SimpleType type, int variant) {
        List<String> found = new ArrayList<>();
        found.add("P" + (variant + 1) + "D");
        found.addAll(List.of("PT1H", "P1M", "P1Y", "PT1S", "PT0S", "-P1D", "P1Y2M3DT4H5M6S", "PT30M"));
        for (Optional<String> bound : bounds(type)) {
            bound.ifPresent(b -> {
                found.add(b);
                for (String by : List.of("PT1S", "PT1H", "P1D", "P1M")) {
                    try {
                        found.add(DATATYPES
                                .newDuration(b)
                                .add(DATATYPES.newDuration(by))
                                .toString());
                        found.add(DATATYPES
                                .newDuration(b)
                                .subtract(DATATYPES.newDuration(by))
                                .toString());
                    } catch (IllegalStateException | IllegalArgumentException notComparable) {
                        // months and days of a duration have no common measure; the other steps remain
                        continue;
                    }
                }
            });
        }
        return found;
    }

    static List<String> times(SimpleType type, int variant) {
        List<String> usual = switch (type.primitive()) {
            case "dateTime" -> List.of("2027-02-12T09:30:00Z", "2027-02-12T09:30:00");
            case "time" -> List.of("09:30:00", "09:30:00Z");
            case "date" -> List.of("2027-02-12", "2027-02-12Z");
            case "gYearMonth" -> List.of("2027-02", "2027-02Z");
            case "gYear" -> List.of("2027", "2027Z");
            case "gMonthDay" -> List.of("--02-12", "--02-12Z");
            case "gDay" -> List.of("---12", "---12Z");
            default -> List.of("--02", "--02Z");
        };
        List<String> found = new ArrayList<>();
        if (variant > 0) {
            usual.forEach(u -> shifted(u, step(type.primitive(), variant)).ifPresent(found::add));
        }
        found.addAll(usual);
        for (Optional<String> bound : bounds(type)) {
            bound.map(String::strip).ifPresent(b -> {
                found.add(b);
                for (String by : List.of("PT1S", "-PT1S", "P1D", "-P1D", "P1M", "-P1M", "P1Y", "-P1Y")) {
                    shifted(b, by).ifPresent(found::add);
                }
            });
        }
        return found;
    }

    /** A day, another for each variant. */
    static String day(int variant) {
        return shifted("2027-02-12", "P" + variant + "D").orElse("2027-02-12");
    }

    private static String step(String primitive, int variant) {
        return switch (primitive) {
            case "time" -> "PT" + variant + "M";
            case "gYear" -> "P" + variant + "Y";
            case "gYearMonth", "gMonth" -> "P" + variant + "M";
            default -> "P" + variant + "D";
        };
    }

    private static List<Optional<String>> bounds(SimpleType type) {
        return List.of(type.minInclusive(), type.minExclusive(), type.maxInclusive(), type.maxExclusive());
    }

    private static Optional<String> shifted(String time, String by) {
        try {
            XMLGregorianCalendar calendar = DATATYPES.newXMLGregorianCalendar(time);
            calendar.add(DATATYPES.newDuration(by));
            return Optional.of(calendar.toXMLFormat());
        } catch (IllegalArgumentException | IllegalStateException notOfThisKind) {
            return Optional.empty();
        }
    }
}
