package dev.mockbell.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A disk without room, which the database itself can play: it takes no more pages than it is told. */
class LedgerFullDiskTest {
    @TempDir
    Path folder;

    private final BlockingQueue<LedgerState> told = new LinkedBlockingQueue<>();

    private static Exchange large(int seed) {
        byte[] body = new byte[200_000];
        new Random(seed).nextBytes(body);
        Content content = Content.of(body);
        HttpMessage message = new HttpMessage("POST /s HTTP/1.1", List.of(new Header("Host", "h")), content, content);
        return new Exchange(
                0,
                Instant.EPOCH,
                Way.CALLED,
                "stay",
                "Book",
                "http://h/s",
                "",
                message,
                Optional.of(message),
                new Timing(1, 1, 1, 1),
                Outcome.FINE,
                "");
    }

    private static long pragma(Connection connection, String pragma) throws SQLException {
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("PRAGMA " + pragma)) {
            return r.getLong(1);
        }
    }

    private LedgerState heard() throws InterruptedException {
        LedgerState state = told.poll(20, TimeUnit.SECONDS);
        assertThat(state).as("the ledger says how it fares").isNotNull();
        return state;
    }

    @Test
    void aFullDiskIsSaidAndRecordingGoesOnWhenThereIsRoomAgain() throws Exception {
        Path file = folder.resolve("ledger.db");
        Ledger.open(file).close();
        String url = "jdbc:sqlite:" + file;
        try (Connection writing = DriverManager.getConnection(url);
                Connection reading = DriverManager.getConnection(url)) {
            writing.setAutoCommit(true);
            pragma(writing, "max_page_count=" + (pragma(writing, "page_count") + 3));
            LedgerWriter writer = new LedgerWriter(writing, reading, 0, Retention.USUAL, Set::of);
            writer.listeners().add(new LedgerListener() {
                @Override
                public void added(Listing listing) {
                    // what is recorded is looked for in the end
                }

                @Override
                public void fares(LedgerState state) {
                    told.add(state);
                }
            });
            writer.start();
            CompletableFuture<Exchange> first = new CompletableFuture<>();
            writer.put(LedgerWriter.Entry.of(large(1), first, true));
            assertThat(heard().trouble()).hasValueSatisfying(t -> assertThat(t).contains("disk is full"));
            pragma(writing, "max_page_count=1000000");
            assertThat(first.get(20, TimeUnit.SECONDS).id())
                    .as("it waited and was written")
                    .isEqualTo(1);
            assertThat(heard()).isEqualTo(new LedgerState(0, 0, Optional.empty()));
            writer.close();
        }
        try (Ledger again = Ledger.open(file)) {
            assertThat(again.get(1)).isPresent();
        }
    }
}
