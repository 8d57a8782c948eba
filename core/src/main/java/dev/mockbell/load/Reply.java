package dev.mockbell.load;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.wire.WireHead;
import java.nio.charset.StandardCharsets;
import java.util.Optional;

/** What came back, with as much of it as was wanted. */
sealed interface Reply {
    /** What became of the request, as the transport's own number; 0 where it has none. */
    int status();

    /** Whether the transport says nothing against it. */
    boolean isWell();

    /** What stands before the body, as text; null unless wanted. */
    String head();

    /** Null unless wanted. */
    byte[] body();

    /** All of it, where it was wanted. */
    Optional<Message> message();

    /** From a server. */
    record Http(int status, String head, byte[] body) implements Reply {
        @Override
        public boolean isWell() {
            return status / 100 == 2;
        }

        @Override
        public Optional<Message> message() {
            Content content = Content.of(body);
            Content start = Content.of(head.getBytes(StandardCharsets.ISO_8859_1));
            return WireHead.read(Content.joined(start, content), content);
        }
    }

    /**
     * From a queue.
     *
     * @param wanted whether it is to be looked into
     */
    record Queued(JmsMessage answer, boolean wanted) implements Reply {
        @Override
        public int status() {
            return answer.status();
        }

        @Override
        public boolean isWell() {
            return answer.isGood();
        }

        @Override
        public String head() {
            return answer.head();
        }

        @Override
        public byte[] body() {
            return wanted ? answer.body().bytes() : null;
        }

        @Override
        public Optional<Message> message() {
            return Optional.of(answer);
        }
    }
}
