package dev.mockbell.mock;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.Template;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapVersion;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.LongAdder;

/**
 * An answer with all done that does not depend on the request: its condition compiled, its envelope of either version taken apart,
 * or in bytes where it is the same for every request. Safe for many threads.
 */
final class PreparedAnswer {
    private final MockAnswer answer;
    private final LongAdder hits;
    private final Expressions.Compiled when;
    private final Problem broken;
    private final boolean fault;
    private final Map<SoapVersion, byte[]> bytes = new EnumMap<>(SoapVersion.class);
    private final Map<SoapVersion, Template> templates = new EnumMap<>(SoapVersion.class);

    /** @param headers blocks that go with a message of either version */
    PreparedAnswer(MockAnswer answer, LongAdder hits, Expressions expressions, Scope ground, List<String> headers) {
        this.answer = answer;
        this.hits = hits;
        Expressions.Compiled condition = null;
        Problem trouble = null;
        boolean faulty = answer.content().isFault();
        try {
            condition = answer.conditional() ? expressions.compiled(answer.when(), Slot.NAMES, ground) : null;
            WholeEnvelope whole = WholeEnvelope.of(answer.content(), expressions);
            faulty |= whole.isFault();
            for (SoapVersion version : SoapVersion.values()) {
                Braces text = whole.in(version)
                        .map(Braces::parseXml)
                        .orElseGet(() -> answer.content().accept(new ContentText(version, headers)));
                Template template = new Template(expressions, text, Slot.NAMES, ground);
                if (template.constant()) {
                    bytes.put(version, template.filled(null, null, Expressions.Effort.USUAL));
                } else {
                    templates.put(version, template);
                }
            }
        } catch (Problem problem) {
            trouble = problem;
        }
        this.when = condition;
        this.broken = trouble;
        this.fault = faulty;
    }

    MockAnswer answer() {
        return answer;
    }

    LongAdder hits() {
        return hits;
    }

    boolean isFault() {
        return fault;
    }

    /** Whether it can be given without an expression. */
    boolean isSimple() {
        return broken == null && when == null && templates.isEmpty();
    }

    /** Whether its condition or its text looks at what a slot holds. */
    boolean looksAt(Slot slot) {
        boolean context = slot == Slot.REQUEST;
        return broken == null
                && (when != null && (context && when.looksAtContext() || when.uses(slot.ordinal()))
                        || templates.values().stream()
                                .anyMatch(t -> t.uses(slot.ordinal()) || context && t.looksAtContext()));
    }

    /**
     * Whether it is this one's turn.
     *
     * @throws Problem when that cannot be decided
     */
    boolean applies(RequestValues values) {
        if (broken != null) {
            throw broken;
        }
        return when == null || when.holds(values.all(), values.context(), values.effort());
    }

    byte[] body(SoapVersion version, RequestValues values) {
        byte[] same = bytes.get(version);
        return same != null ? same : templates.get(version).filled(values.all(), values.context(), values.effort());
    }

    /** The bytes of one that is simple. */
    byte[] body(SoapVersion version) {
        return bytes.get(version);
    }
}
