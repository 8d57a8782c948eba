package dev.mockbell.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A process that records is killed at random moments: what was said to be written is there, and the file is whole. */
class LedgerKillTest {
    private static final int TIMES = Integer.getInteger("mockbell.kills", 5);

    @TempDir
    Path folder;

    /** Records until it is killed; says each number once that is written. */
    public static final class Recording {
        private Recording() {}

        public static void main(String[] args) {
            Random random = new Random();
            try (Ledger ledger = Ledger.open(Path.of(args[0]))) {
                while (true) {
                    String body = "<trip>" + "x".repeat(random.nextInt(3_000)) + "</trip>";
                    ledger.offer(exchange(body), numbered -> System.out.println(numbered.id()));
                    if (random.nextInt(20) == 0) {
                        ledger.settle();
                    }
                }
            }
        }

        private static Exchange exchange(String body) {
            Content content = Content.of(body.getBytes(StandardCharsets.UTF_8));
            return new Exchange(
                    0,
                    Instant.now(),
                    Way.TAPPED,
                    "",
                    "",
                    "http://h/",
                    "tap",
                    new HttpMessage("POST / HTTP/1.1", List.of(), content, Content.NONE),
                    Optional.empty(),
                    Timing.NONE,
                    Outcome.FAILED,
                    "no answer");
        }
    }

    @Test
    void whatWasWrittenIsThereHoweverItEnds() throws Exception {
        Path file = folder.resolve("l.db");
        Random random = new Random(7);
        long said = 0;
        for (int time = 0; time < TIMES; time++) {
            Process process = new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-XX:TieredStopAtLevel=1",
                            "-cp",
                            System.getProperty("java.class.path"),
                            Recording.class.getName(),
                            file.toString())
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            try (BufferedReader numbers =
                    new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
                long until = said + 50 + random.nextInt(400);
                for (String line = numbers.readLine(); line != null && said < until; line = numbers.readLine()) {
                    said = Long.parseLong(line);
                }
                process.destroyForcibly().waitFor(20, TimeUnit.SECONDS);
            }
            try (Ledger ledger = Ledger.open(file)) {
                List<Listing> newest = ledger.list(LedgerFilter.ALL, 1);
                assertThat(newest.get(0).id()).as("round " + time).isGreaterThanOrEqualTo(said);
                assertThat(ledger.figures(LedgerFilter.ALL, null, new dev.mockbell.task.StopSignal())
                                .count())
                        .as("none is missing between")
                        .isEqualTo(newest.get(0).id());
                assertThat(ledger.get(said).orElseThrow().request().text()).endsWith("</trip>");
                said = newest.get(0).id();
            }
        }
    }
}
