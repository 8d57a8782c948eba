package dev.mockbell.grid;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;

/** An exchange that failed under load, as bytes. One that is larger than can be sent comes without its answer, and says so. */
final class FailureBytes {
    private static final int MOST_BODY = 4 << 20;
    private static final int MOST_HEADERS = 10_000;

    private FailureBytes() {}

    static byte[] of(Exchange exchange) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (DataOutputStream out = new DataOutputStream(new DeflaterOutputStream(bytes))) {
            Optional<Message> answer = exchange.response()
                    .filter(a -> a.wire().size() <= MOST_BODY && a.body().size() <= MOST_BODY);
            String note = answer.isEmpty() && exchange.response().isPresent()
                    ? exchange.note() + " (its answer of "
                            + exchange.response().get().wire().size() + " bytes stayed on the worker)"
                    : exchange.note();
            out.writeLong(exchange.started().toEpochMilli());
            for (String text : List.of(
                    exchange.way().name(),
                    exchange.contract(),
                    exchange.operation(),
                    exchange.endpoint(),
                    exchange.origin(),
                    exchange.outcome().name(),
                    note,
                    exchange.ties().caller(),
                    exchange.ties().of())) {
                Texts.write(out, text);
            }
            out.writeLong(exchange.timing().total());
            message(out, exchange.request());
            out.writeBoolean(answer.isPresent());
            if (answer.isPresent()) {
                message(out, answer.get());
            }
        } catch (IOException e) {
            throw new IllegalStateException("memory can always be written to", e);
        }
        return bytes.toByteArray();
    }

    private static void message(DataOutputStream out, Message message) throws IOException {
        out.writeBoolean(message instanceof JmsMessage);
        Texts.write(out, message.title());
        out.writeInt(message.headers().size());
        for (Header header : message.headers()) {
            Texts.write(out, header.name());
            Texts.write(out, header.value());
        }
        Texts.write(out, message.body().bytes());
        Texts.write(out, message.wire().bytes());
    }

    /** @throws IOException when it is none */
    static Exchange read(byte[] bytes) throws IOException {
        try (DataInputStream in = new DataInputStream(new InflaterInputStream(new ByteArrayInputStream(bytes)))) {
            Instant started = Instant.ofEpochMilli(in.readLong());
            List<String> texts = new ArrayList<>();
            for (int i = 0; i < 9; i++) {
                texts.add(Texts.read(in));
            }
            Timing timing = new Timing(0, 0, in.readLong(), 0);
            Message request = message(in);
            Optional<Message> answer = in.readBoolean() ? Optional.of(message(in)) : Optional.empty();
            return new Exchange(
                            0,
                            started,
                            Exchange.Way.valueOf(texts.get(0)),
                            texts.get(1),
                            texts.get(2),
                            texts.get(3),
                            texts.get(4),
                            request,
                            answer,
                            timing,
                            Exchange.Outcome.valueOf(texts.get(5)),
                            texts.get(6))
                    .with(new Ties(texts.get(7), texts.get(8)));
        } catch (RuntimeException e) {
            throw new IOException("not an exchange", e);
        }
    }

    private static Message message(DataInputStream in) throws IOException {
        boolean queued = in.readBoolean();
        String title = Texts.read(in);
        int count = in.readInt();
        if (count < 0 || count > MOST_HEADERS) {
            throw new IOException("headers: " + count);
        }
        List<Header> headers = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            headers.add(new Header(Texts.read(in), Texts.read(in)));
        }
        Content body = Content.of(Texts.readBytes(in));
        Content wire = Content.of(Texts.readBytes(in));
        return queued ? new JmsMessage(title, headers, body, wire) : new HttpMessage(title, headers, body, wire);
    }
}
