package dev.mockbell.sample;

import dev.mockbell.contract.Contract;
import dev.mockbell.expression.ValueMaker;
import dev.mockbell.message.Prefixes;
import dev.mockbell.pattern.XsPattern;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.SimpleType.Variety;
import dev.mockbell.schema.TypeDef;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.random.RandomGenerator;
import javax.xml.namespace.QName;

/**
 * Random values of simple types, each accepted by its type. Numbers keep the type's bounds and otherwise lie between 0 and
 * 10,000, dates lie within a year from now on.
 */
public final class RandomValues implements ValueMaker {
    private static final int TRIES = 60;
    private static final int SAMPLES = 200;
    private static final int LONGEST = 200;
    private static final long YEAR = 365;
    private static final BigDecimal USUAL_MOST = BigDecimal.valueOf(10_000);

    private final List<Contract> contracts;

    private RandomValues(List<Contract> contracts) {
        this.contracts = contracts;
    }

    /** Over the types of these contracts and the built-in ones. */
    public static RandomValues of(List<Contract> contracts) {
        return new RandomValues(List.copyOf(contracts));
    }

    @Override
    public Optional<String> value(String name, RandomGenerator random) {
        return type(name).flatMap(TypeDef::simple).map(t -> of(t, random));
    }

    private Optional<TypeDef> type(String name) {
        int colon = name.indexOf(':');
        String prefix = colon < 0 ? "" : name.substring(0, colon);
        String local = name.substring(colon + 1);
        for (Contract contract : contracts) {
            for (Map.Entry<String, String> p : contract.prefixes().entrySet()) {
                boolean named = colon < 0 || p.getValue().equals(prefix);
                Optional<TypeDef> found =
                        named ? contract.schemas().type(new QName(p.getKey(), local)) : Optional.empty();
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        boolean builtIn = colon < 0 || "xs".equals(prefix) || "xsd".equals(prefix);
        Schemas schemas = contracts.isEmpty()
                ? Schemas.compile(List.of())
                : contracts.get(0).schemas();
        return builtIn ? schemas.type(new QName(SampleValues.XSD, local)) : Optional.empty();
    }

    /** A value of the type; where no random one was found, a sample. */
    public static String of(SimpleType type, RandomGenerator random) {
        for (int i = 0; i < TRIES; i++) {
            Optional<String> candidate = candidate(type, random);
            if (candidate.filter(type::accepts).isPresent()) {
                return candidate.get();
            }
        }
        return new SampleValues(new Prefixes(Map.of())).of(type, "value", random.nextInt(8));
    }

    private static Optional<String> candidate(SimpleType type, RandomGenerator random) {
        if (!type.enumeration().isEmpty()) {
            return Optional.of(pick(type.enumeration(), random));
        }
        if (type.variety() == Variety.UNION) {
            return type.members().isEmpty() ? Optional.empty() : Optional.of(of(pick(type.members(), random), random));
        }
        if (type.variety() == Variety.LIST) {
            int count = type.length().or(type::minLength).filter(n -> n > 0).orElse(1);
            String item = type.item().map(t -> of(t, random)).orElse("");
            return Optional.of((item + " ").repeat(Math.min(count, LONGEST)).strip());
        }
        List<XsPattern> patterns = type.readPatterns();
        if (!patterns.isEmpty() && !"decimal".equals(type.primitive())) {
            int most = Math.min(LONGEST, type.length().or(type::maxLength).orElse(LONGEST));
            List<String> found = XsPattern.samples(
                    patterns, type.length().or(type::minLength).orElse(0), most, SAMPLES);
            return found.isEmpty() ? Optional.empty() : Optional.of(pick(found, random));
        }
        return Optional.ofNullable(atomic(type, random));
    }

    private static String atomic(SimpleType type, RandomGenerator random) {
        LocalDate day = day(type, random);
        String time = "%02d:%02d:%02d".formatted(random.nextInt(24), random.nextInt(60), random.nextInt(60));
        return switch (type.primitive()) {
            case "boolean" -> String.valueOf(random.nextBoolean());
            case "decimal" -> number(type, random);
            case "float", "double" -> floating(type, random);
            case "date" -> day.toString();
            case "dateTime" -> day + "T" + time + "Z";
            case "time" -> time;
            case "gYear" -> String.valueOf(day.getYear() + random.nextInt(20));
            case "gYearMonth" -> day.toString().substring(0, 7);
            case "gMonth" -> "--%02d".formatted(day.getMonthValue());
            case "gDay" -> "---%02d".formatted(day.getDayOfMonth());
            case "gMonthDay" -> "--%02d-%02d".formatted(day.getMonthValue(), Math.min(28, day.getDayOfMonth()));
            case "duration" -> "P%dDT%dH".formatted(random.nextInt(30), random.nextInt(24));
            case "base64Binary" -> Base64.getEncoder().encodeToString(bytes(type, random));
            case "hexBinary" -> HexFormat.of().withUpperCase().formatHex(bytes(type, random));
            case "anyURI" -> "urn:northfell:" + letters(8, random);
            case "string" -> letters(length(type, random), random);
            default -> null;
        };
    }

    /** Within the type's bounds where they are days or points in time; otherwise within a year from now on. */
    private static LocalDate day(SimpleType type, RandomGenerator random) {
        Optional<LocalDate> least = type.minInclusive().or(type::minExclusive).flatMap(RandomValues::dayOf);
        Optional<LocalDate> most = type.maxInclusive().or(type::maxExclusive).flatMap(RandomValues::dayOf);
        LocalDate from = least.orElseGet(() -> most.map(m -> m.minusDays(YEAR)).orElseGet(LocalDate::now));
        long days = most.map(m -> Math.max(0, Math.min(YEAR, ChronoUnit.DAYS.between(from, m))))
                .orElse(YEAR);
        return from.plusDays(random.nextLong(days + 1));
    }

    private static Optional<LocalDate> dayOf(String bound) {
        try {
            String whole = bound.matches("\\d{4}") ? bound + "-01-01" : bound;
            return whole.length() < 10 ? Optional.empty() : Optional.of(LocalDate.parse(whole.substring(0, 10)));
        } catch (DateTimeParseException noDay) {
            return Optional.empty();
        }
    }

    private static String floating(SimpleType type, RandomGenerator random) {
        try {
            return number(type, random);
        } catch (NumberFormatException infinite) {
            return BigDecimal.valueOf(random.nextInt(1_000_000), 2).toPlainString();
        }
    }

    private static String number(SimpleType type, RandomGenerator random) {
        int places = Math.min(type.fractionDigits().orElse(2), 6);
        Optional<BigDecimal> least = type.minInclusive().or(type::minExclusive).map(BigDecimal::new);
        Optional<BigDecimal> most = type.maxInclusive().or(type::maxExclusive).map(BigDecimal::new);
        BigDecimal low = least.orElse(
                most.map(m -> m.min(BigDecimal.ZERO).subtract(USUAL_MOST)).orElse(BigDecimal.ZERO));
        low = low.compareTo(USUAL_MOST.negate()) < 0
                        && most.filter(m -> m.signum() <= 0).isEmpty()
                ? BigDecimal.ZERO
                : low;
        BigDecimal high = most.orElse(low.add(USUAL_MOST)).min(low.add(USUAL_MOST));
        BigInteger steps =
                high.subtract(low).max(BigDecimal.ZERO).movePointRight(places).toBigInteger();
        BigInteger step = steps.signum() == 0
                ? BigInteger.ZERO
                : BigInteger.valueOf(random.nextLong(
                        steps.min(BigInteger.valueOf(Long.MAX_VALUE - 1)).longValue() + 1));
        BigDecimal value = low.add(new BigDecimal(step, places));
        return (places == 0 ? value.setScale(0, RoundingMode.FLOOR) : value).toPlainString();
    }

    private static byte[] bytes(SimpleType type, RandomGenerator random) {
        byte[] bytes = new byte
                [Math.min(
                        LONGEST,
                        type.length().or(type::minLength).filter(n -> n > 0).orElse(12))];
        random.nextBytes(bytes);
        return bytes;
    }

    private static int length(SimpleType type, RandomGenerator random) {
        int least = type.length().or(type::minLength).orElse(3);
        int most = type.length().or(type::maxLength).orElse(Math.max(least, 12));
        int bounded = Math.max(least, Math.min(most, least + 12));
        return Math.min(LONGEST * 10, random.nextInt(least, bounded + 1));
    }

    private static String letters(int count, RandomGenerator random) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < count; i++) {
            text.append((char) ((i == 0 ? 'A' : 'a') + random.nextInt(26)));
        }
        return text.toString();
    }

    private static <T> T pick(List<T> list, RandomGenerator random) {
        return list.get(random.nextInt(list.size()));
    }
}
