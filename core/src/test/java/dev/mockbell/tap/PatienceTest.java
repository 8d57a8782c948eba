package dev.mockbell.tap;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class PatienceTest {
    private final Patience patience = new Patience();

    private static Message by(String program) {
        Content body = Content.of("<a/>".getBytes(StandardCharsets.UTF_8));
        return new HttpMessage("POST /s HTTP/1.1", List.of(new Header("User-Agent", program)), body, body);
    }

    @Test
    void theShortestWaitOfAClientIsKnownForThoseLikeIt() {
        assertThat(patience.of("127.0.0.1", by("huts/1"))).isEmpty();
        patience.gaveUp("127.0.0.1", by("huts/1"), Duration.ofSeconds(30));
        patience.gaveUp("127.0.0.1", by("huts/1"), Duration.ofSeconds(12));
        patience.gaveUp("127.0.0.1", by("huts/1"), Duration.ofSeconds(40));
        assertThat(patience.of("127.0.0.1", by("huts/1"))).contains(Duration.ofSeconds(12));
        assertThat(patience.of("127.0.0.1", by("huts/2"))).isEmpty();
        assertThat(patience.of("127.0.0.2", by("huts/1"))).isEmpty();
    }

    @Test
    void whoEndsItsSideAtOnceHasNotGivenUpAndNotAllAreKept() {
        patience.gaveUp("127.0.0.1", by("quick"), Duration.ofMillis(20));
        assertThat(patience.of("127.0.0.1", by("quick"))).isEmpty();
        for (int i = 0; i < 300; i++) {
            patience.gaveUp("127.0.0.1", by("huts/" + i), Duration.ofSeconds(1));
        }
        assertThat(patience.of("127.0.0.1", by("huts/299"))).isPresent();
        assertThat(patience.of("127.0.0.1", by("huts/0"))).isEmpty();
    }
}
