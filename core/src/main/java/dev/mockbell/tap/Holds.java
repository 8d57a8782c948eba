package dev.mockbell.tap;

import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import net.sf.saxon.s9api.XdmEmptySequence;
import net.sf.saxon.s9api.XdmValue;

/**
 * Which messages of a relay wait for a person, and those that do. A message never waits longer than its rule and its relay last:
 * what waits then is let through. Safe for many threads.
 */
public final class Holds {
    /** Names that a condition may use. */
    static final List<String> VARIABLES = List.of("request", "response", "operation");

    private final Expressions expressions;
    private final OperationFinder operations;
    private final AtomicLong numbers = new AtomicLong();
    private final Patience patience = new Patience();
    private final List<Held> waiting = new CopyOnWriteArrayList<>();
    private final List<Runnable> listeners = new CopyOnWriteArrayList<>();
    private volatile Optional<Rule> rule = Optional.empty();
    private volatile Optional<Expressions.Compiled> condition = Optional.empty();

    /** Which side waits. */
    public enum Side {
        REQUESTS,
        ANSWERS,
        BOTH
    }

    /**
     * What is to wait.
     *
     * @param condition in XPath over {@code $request}, {@code $response} (of an answer) and {@code $operation}; empty for any
     * @param next whether only the next one waits, and nothing after it
     */
    public record Rule(Side side, String condition, boolean next) {}

    Holds(Expressions expressions, OperationFinder operations) {
        this.expressions = expressions;
        this.operations = operations;
    }

    /**
     * Sets what is to wait from now on; empty for nothing, which lets all through that waits.
     *
     * @throws Problem of kind EXPRESSION when the condition does not parse
     */
    public void set(Optional<Rule> other) {
        Optional<Expressions.Compiled> compiled = other.map(Rule::condition)
                .filter(c -> !c.isBlank())
                .map(c -> expressions.compiled(c, VARIABLES, Scope.EMPTY));
        synchronized (this) {
            condition = compiled;
            rule = other;
        }
        if (other.isEmpty()) {
            letAllThrough();
        }
        changed();
    }

    /** What is to wait. */
    public Optional<Rule> rule() {
        return rule;
    }

    /** Those that wait, the longest first. */
    public List<Held> waiting() {
        return List.copyOf(waiting);
    }

    /** Hears when what waits has changed; on any thread, so it must not block. */
    public void listen(Runnable listener) {
        listeners.add(listener);
    }

    /** All that wait go on as they are. */
    public void letAllThrough() {
        new ArrayList<>(waiting).forEach(Held::letThrough);
    }

    /** Whether messages of that side may have to wait. */
    boolean wants(boolean answer) {
        return rule.map(r -> r.side() == Side.BOTH || r.side() == (answer ? Side.ANSWERS : Side.REQUESTS))
                .orElse(false);
    }

    /**
     * Looks whether a message is to wait. It may take a while, so not on the thread of a connection.
     *
     * @param decided hears at once when it need not wait, else when that is decided
     * @return what waits; empty when it need not
     */
    Optional<Held> consider(
            Message request, Optional<Message> response, String caller, Consumer<Held.Verdict> decided) {
        String operation =
                operations.find(request).map(OperationFinder.Found::operation).orElse("");
        boolean meets = wants(response.isPresent()) && meets(request, response, operation);
        Held held;
        synchronized (this) {
            // looked at again: another may have been the next one meanwhile
            if (!meets || !wants(response.isPresent())) {
                held = null;
            } else {
                Held[] own = new Held[1];
                own[0] = new Held(
                        numbers.incrementAndGet(),
                        response.isPresent(),
                        operation,
                        caller,
                        request,
                        response,
                        decided,
                        patience,
                        () -> {
                            waiting.remove(own[0]);
                            changed();
                        });
                held = own[0];
                waiting.add(held);
                if (rule.orElseThrow().next()) {
                    rule = Optional.empty();
                }
            }
        }
        if (held == null) {
            decided.accept(new Held.Verdict.Pass(Optional.empty()));
            return Optional.empty();
        }
        changed();
        return Optional.of(held);
    }

    private boolean meets(Message request, Optional<Message> response, String operation) {
        if (condition.isEmpty()) {
            return true;
        }
        Expressions.Compiled c = condition.get();
        XdmValue[] values = {read(Optional.of(request), c.uses(0)), read(response, c.uses(1)), Scope.untyped(operation)
        };
        try {
            return c.holds(values, null, Expressions.Effort.USUAL);
        } catch (Problem undecided) {
            return false;
        }
    }

    private XdmValue read(Optional<Message> message, boolean used) {
        if (!used || message.isEmpty() || message.get().body().isEmpty()) {
            return XdmEmptySequence.getInstance();
        }
        try {
            return expressions.read(message.get().text());
        } catch (Problem notXml) {
            return XdmEmptySequence.getInstance();
        }
    }

    private void changed() {
        listeners.forEach(Runnable::run);
    }
}
