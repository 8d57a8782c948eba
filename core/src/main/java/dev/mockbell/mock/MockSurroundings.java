package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.ServerTls;
import java.util.Optional;

/**
 * What a mock needs of the program that it runs in.
 *
 * @param recorder takes each exchange without blocking and says whether it did; null to record nothing
 * @param files the project's folder, where answers find their files and tables; empty where there is none
 * @param onward reaches live endpoints
 * @param keys gives what is not the project's to hold
 */
public record MockSurroundings(
        EventLoops loops,
        Expressions expressions,
        MockRecorder recorder,
        MockListener listener,
        Optional<Inside> files,
        Onward onward,
        Keys keys) {
    /** Reaches live endpoints. Safe for many threads; it waits for the answer. */
    @FunctionalInterface
    public interface Onward {
        /** Makes a call; failures are told, never thrown. */
        CallResult call(CallRequest request, StopSignal stop);
    }

    /** Gives keys and secrets. Safe for many threads. */
    public interface Keys {
        /**
         * TLS for a mock.
         *
         * @param host that it listens on
         * @throws Problem when there is no such key
         */
        ServerTls tls(MockTls tls, String host);

        /**
         * What a text stands for that may be a secret.
         *
         * @throws Problem when the secret is not known here
         */
        String secret(String written);
    }

    /** Has none. */
    private static final class NoKeys implements Keys {
        @Override
        public ServerTls tls(MockTls tls, String host) {
            throw Problem.input("There is no key for TLS here", null, "Start the mock with its project.");
        }

        @Override
        public String secret(String written) {
            return written;
        }
    }

    /** With no files and no way to anywhere. */
    public static MockSurroundings alone(
            EventLoops loops, Expressions expressions, MockRecorder recorder, MockListener listener) {
        return new MockSurroundings(
                loops,
                expressions,
                recorder,
                listener,
                Optional.empty(),
                (request, stop) -> {
                    throw Problem.input(
                            "This mock passes nothing on", null, "Start it with the project that it belongs to.");
                },
                new NoKeys());
    }

    /** As they are for whoever answers, but nothing that he does is told, kept or passed on. */
    MockSurroundings unseen() {
        MockRecorder forgetting = made -> made.get() != null;
        MockListener deaf = event -> {};
        return new MockSurroundings(
                loops,
                expressions,
                recorder == null ? null : forgetting,
                deaf,
                files,
                alone(loops, expressions, null, deaf).onward,
                keys);
    }

    public MockSurroundings with(Inside folder) {
        return new MockSurroundings(loops, expressions, recorder, listener, Optional.of(folder), onward, keys);
    }

    public MockSurroundings with(Onward other) {
        return new MockSurroundings(loops, expressions, recorder, listener, files, other, keys);
    }

    public MockSurroundings with(Keys other) {
        return new MockSurroundings(loops, expressions, recorder, listener, files, onward, other);
    }

    public MockSurroundings with(MockListener other) {
        return new MockSurroundings(loops, expressions, recorder, other, files, onward, keys);
    }
}
