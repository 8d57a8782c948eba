package dev.mockbell.expression;

import dev.mockbell.pattern.XsPattern;
import dev.mockbell.problem.Problem;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.ToLongFunction;
import java.util.random.RandomGenerator;
import net.sf.saxon.Controller;
import net.sf.saxon.expr.XPathContext;
import net.sf.saxon.lib.ExtensionFunctionCall;
import net.sf.saxon.lib.ExtensionFunctionDefinition;
import net.sf.saxon.om.GroundedValue;
import net.sf.saxon.om.Sequence;
import net.sf.saxon.om.StructuredQName;
import net.sf.saxon.s9api.Processor;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmMap;
import net.sf.saxon.s9api.XdmValue;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.value.EmptySequence;
import net.sf.saxon.value.Int64Value;
import net.sf.saxon.value.SequenceType;
import net.sf.saxon.value.StringValue;

/** The functions beyond those of XPath; {@link FunctionDoc} says what each does. */
final class Functions {
    static final String PREFIX = "bell";
    static final String NAMESPACE = "urn:mockbell:functions";

    private static final String TYPES = "mockbell.types";
    private static final String TABLES = "mockbell.tables";
    private static final List<String> HASHES = List.of("SHA-256", "SHA-512", "SHA-1", "MD5");
    private static final int LIKE_CHOICES = 200;
    private static final int LIKE_LONGEST = 200;

    private final RandomGenerator random;
    private final ToLongFunction<String> counter;

    /** Where chance and counts come from. */
    record Source(RandomGenerator random, Counters counters) {}

    /** @param looking whether counters only show what would come next */
    Functions(Source source, boolean looking) {
        this.random = source.random();
        this.counter = looking ? source.counters()::peek : source.counters()::next;
    }

    private interface Body {
        Sequence call(XPathContext context, Sequence[] arguments) throws XPathException;
    }

    void registerIn(Processor processor) {
        SequenceType text = SequenceType.SINGLE_STRING;
        SequenceType number = SequenceType.SINGLE_INTEGER;
        Map<String, SequenceType[]> arguments = new HashMap<>();
        Map<String, Body> bodies = new HashMap<>();
        each(arguments, bodies, "uuid", (c, a) -> text(uuid()));
        each(arguments, bodies, "random", (c, a) -> text(value(c, text(a[0]))), text);
        each(arguments, bodies, "between", (c, a) -> between(whole(a[0]), whole(a[1])), number, number);
        each(arguments, bodies, "one-of", (c, a) -> oneOf(a[0].materialize()), SequenceType.ATOMIC_SEQUENCE);
        each(arguments, bodies, "like", (c, a) -> text(like(text(a[0]))), text);
        each(
                arguments,
                bodies,
                "counter",
                (c, a) -> Int64Value.makeIntegerValue(counter.applyAsLong(text(a[0]))),
                text);
        each(
                arguments,
                bodies,
                "base64",
                (c, a) -> text(Base64.getEncoder().encodeToString(text(a[0]).getBytes(StandardCharsets.UTF_8))),
                text);
        each(arguments, bodies, "from-base64", (c, a) -> text(decoded(text(a[0]))), text);
        each(arguments, bodies, "hash", (c, a) -> text(hash(text(a[0]), text(a[1]))), text, text);
        each(
                arguments,
                bodies,
                "look-up",
                (c, a) -> row(c, text(a[0]), text(a[1]), a[2].materialize()),
                text,
                text,
                SequenceType.OPTIONAL_ATOMIC);
        each(arguments, bodies, "rows", (c, a) -> rows(c, text(a[0])), text);
        bodies.forEach((name, body) -> {
            SequenceType result = switch (name) {
                case "between", "counter" -> number;
                case "one-of" -> SequenceType.OPTIONAL_ATOMIC;
                case "look-up" -> SequenceType.OPTIONAL_ITEM;
                case "rows" -> SequenceType.ANY_SEQUENCE;
                default -> text;
            };
            processor.registerExtensionFunction(new Definition(name, arguments.get(name), result, body));
        });
    }

    private static void each(
            Map<String, SequenceType[]> arguments,
            Map<String, Body> bodies,
            String name,
            Body body,
            SequenceType... types) {
        arguments.put(name, types);
        bodies.put(name, body);
    }

    /** Lets the functions of one evaluation know the types and tables that are at hand. */
    static void offer(Scope scope, Controller controller) {
        controller.setUserData(TYPES, TYPES, scope.types());
        if (scope.tables() != RowFinder.NONE) {
            controller.setUserData(TABLES, TABLES, scope.tables());
        }
    }

    private static RowFinder tables(XPathContext context) {
        Object offered = context.getController().getUserData(TABLES, TABLES);
        return offered instanceof RowFinder known ? known : RowFinder.NONE;
    }

    private static Sequence row(XPathContext context, String table, String column, GroundedValue value)
            throws XPathException {
        if (value.getLength() == 0) {
            return EmptySequence.getInstance();
        }
        try {
            return tables(context)
                    .row(table, column, value.head().getStringValue())
                    .<GroundedValue>map(row -> map(row).getUnderlyingValue())
                    .orElseGet(EmptySequence::getInstance);
        } catch (Problem problem) {
            throw new XPathException(problem.getMessage());
        }
    }

    private static Sequence rows(XPathContext context, String table) throws XPathException {
        try {
            return new XdmValue(tables(context).rows(table).stream()
                            .map(Functions::map)
                            .toList())
                    .getUnderlyingValue();
        } catch (Problem problem) {
            throw new XPathException(problem.getMessage());
        }
    }

    private static XdmMap map(Map<String, String> row) {
        Map<XdmAtomicValue, XdmValue> cells = new LinkedHashMap<>();
        row.forEach((name, cell) -> cells.put(new XdmAtomicValue(name), Scope.untyped(cell)));
        return new XdmMap(cells);
    }

    private String uuid() {
        byte[] bytes = new byte[16];
        random.nextBytes(bytes);
        // version 4, variant 10 (RFC 9562 §5.4)
        bytes[6] = (byte) (bytes[6] & 0x0F | 0x40);
        bytes[8] = (byte) (bytes[8] & 0x3F | 0x80);
        ByteBuffer buffer = ByteBuffer.wrap(bytes);
        return new UUID(buffer.getLong(), buffer.getLong()).toString();
    }

    private String value(XPathContext context, String type) throws XPathException {
        Object types = context.getController().getUserData(TYPES, TYPES);
        ValueMaker maker = types instanceof ValueMaker known ? known : ValueMaker.NONE;
        return maker.value(type, random)
                .orElseThrow(() -> new XPathException("there is no type " + type
                        + " here; write it as the contract does, or xs:date and the like for a built-in type"));
    }

    private Int64Value between(long low, long high) throws XPathException {
        if (low > high) {
            throw new XPathException("bell:between needs the lower number first, not " + low + " and " + high);
        }
        long value = high == Long.MAX_VALUE
                ? Math.max(low, random.nextLong(Math.max(Long.MIN_VALUE, low - 1), high) + 1)
                : random.nextLong(low, high + 1);
        return Int64Value.makeIntegerValue(value);
    }

    private Sequence oneOf(GroundedValue values) throws XPathException {
        if (values.getLength() == 0) {
            throw new XPathException("bell:one-of needs at least one value");
        }
        return values.itemAt(random.nextInt(values.getLength()));
    }

    private String like(String pattern) throws XPathException {
        XsPattern read = XsPattern.parse(pattern)
                .orElseThrow(() -> new XPathException("“" + pattern + "” is no regular expression of XML Schema"));
        List<String> samples = XsPattern.samples(List.of(read), 0, LIKE_LONGEST, LIKE_CHOICES);
        if (samples.isEmpty()) {
            throw new XPathException("no text was found that matches “" + pattern + "”");
        }
        return samples.get(random.nextInt(samples.size()));
    }

    private static String decoded(String text) throws XPathException {
        try {
            byte[] bytes = Base64.getDecoder().decode(text.replaceAll("\\s", ""));
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(bytes))
                    .toString();
        } catch (IllegalArgumentException e) {
            throw new XPathException("bell:from-base64 was given text that is not base64");
        } catch (CharacterCodingException e) {
            throw new XPathException("bell:from-base64 gives bytes that are not UTF-8 text");
        }
    }

    private static String hash(String algorithm, String text) throws XPathException {
        String known = HASHES.stream()
                .filter(h -> h.equalsIgnoreCase(algorithm))
                .findFirst()
                .orElseThrow(() ->
                        new XPathException("bell:hash knows " + String.join(", ", HASHES) + ", not " + algorithm));
        try {
            byte[] digest = MessageDigest.getInstance(known).digest(text.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(digest);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has this algorithm", e);
        }
    }

    private static String text(Sequence argument) throws XPathException {
        return argument.head().getStringValue();
    }

    private static StringValue text(String value) {
        return new StringValue(value);
    }

    private static long whole(Sequence argument) throws XPathException {
        return ((net.sf.saxon.value.NumericValue) argument.head()).longValue();
    }

    private static final class Definition extends ExtensionFunctionDefinition {
        private final String name;
        private final SequenceType[] arguments;
        private final SequenceType result;
        private final Body body;

        Definition(String name, SequenceType[] arguments, SequenceType result, Body body) {
            this.name = name;
            this.arguments = arguments;
            this.result = result;
            this.body = body;
        }

        @Override
        public StructuredQName getFunctionQName() {
            return new StructuredQName(PREFIX, NAMESPACE, name);
        }

        @Override
        public SequenceType[] getArgumentTypes() {
            return arguments;
        }

        @Override
        public SequenceType getResultType(SequenceType[] suppliedArgumentTypes) {
            return result;
        }

        @Override
        public boolean hasSideEffects() {
            // each call gives another value, so none may be taken out of a loop or worked out beforehand
            return true;
        }

        @Override
        public ExtensionFunctionCall makeCallExpression() {
            return new ExtensionFunctionCall() {
                @Override
                public Sequence call(XPathContext context, Sequence[] given) throws XPathException {
                    return body.call(context, given);
                }
            };
        }
    }
}
