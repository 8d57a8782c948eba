package dev.mockbell.tap;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.ServerTls;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;
import javax.net.ssl.SSLContext;

/**
 * What a relay needs of the program that it runs in.
 *
 * @param recorder takes what makes an exchange, without blocking, and says whether it did
 * @param keys gives TLS for a host that clients know it by, by the project's authority; it may take a while
 * @param trust what certificates of services are judged by; asked when one is first needed
 * @param expressions evaluates the conditions of holds
 * @param operations tells which operation of which contract a request is
 */
public record TapSurroundings(
        EventLoops loops,
        Predicate<Supplier<Exchange>> recorder,
        Function<String, ServerTls> keys,
        Supplier<SSLContext> trust,
        Expressions expressions,
        OperationFinder operations) {}
