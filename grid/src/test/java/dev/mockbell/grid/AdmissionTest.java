package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.annotation.JsonProperty;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.ClientKey;
import java.net.Socket;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509TrustManager;
import org.apache.pekko.actor.typed.ActorSystem;
import org.apache.pekko.actor.typed.javadsl.Adapter;
import org.apache.pekko.serialization.Serialization;
import org.apache.pekko.serialization.SerializationExtension;
import org.apache.pekko.serialization.Serializer;
import org.junit.jupiter.api.Test;

/** Who is let in, and what is understood. */
class AdmissionTest {
    private final Authority authority = Authority.made("Northfell", Instant.now());

    private Invitation invitation(java.net.URI role, int port) {
        return Invitation.of(authority, role, "127.0.0.1", port, "Northfell", Instant.now(), Duration.ofHours(1));
    }

    /** Whether somebody with that key is taken by a coordinator, by TLS of a version. */
    private boolean isTaken(int port, ClientKey.Opened key, String version) {
        try {
            SSLContext context = SSLContext.getInstance("TLS");
            KeyManagerFactory keys = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            if (key != null) {
                keys.init(key.store(), key.password().toCharArray());
            }
            context.init(key == null ? null : keys.getKeyManagers(), new TrustManager[] {new Anybody()}, null);
            try (SSLSocket socket = (SSLSocket)
                    context.getSocketFactory().createSocket(new Socket("127.0.0.1", port), "127.0.0.1", port, true)) {
                socket.setEnabledProtocols(new String[] {version});
                socket.setSoTimeout(1_500);
                socket.startHandshake();
                try {
                    return socket.getInputStream().read() >= 0;
                } catch (java.net.SocketTimeoutException waits) {
                    // it waits for more to be said
                    return true;
                }
            }
        } catch (java.io.IOException | java.security.GeneralSecurityException refused) {
            return false;
        }
    }

    private static final class Anybody implements X509TrustManager {
        @Override
        public void checkClientTrusted(java.security.cert.X509Certificate[] chain, String kind) {
            // for tests of the other side
        }

        @Override
        public void checkServerTrusted(java.security.cert.X509Certificate[] chain, String kind) {
            // for tests of the other side
        }

        @Override
        public java.security.cert.X509Certificate[] getAcceptedIssuers() {
            return new java.security.cert.X509Certificate[0];
        }
    }

    @Test
    void onlyACertificateOfTheAuthorityThatIsForThisOpensTheDoorAndOnlyByTls13() {
        try (Crew crew = new Crew(0)) {
            ClientKey.Opened good = crew.invitation(Invitation.WORKER).key(Instant.now());
            assertThat(isTaken(crew.port, good, "TLSv1.3")).isTrue();
            assertThat(isTaken(crew.port, good, "TLSv1.2")).isFalse();
            assertThat(isTaken(crew.port, null, "TLSv1.3")).isFalse();
            ClientKey.Opened forged = invitation(Invitation.WORKER, crew.port).key(Instant.now());
            assertThat(isTaken(crew.port, forged, "TLSv1.3")).isFalse();
            // one that the same authority issued to a server of the project
            assertThat(isTaken(crew.port, crew.authority.issue("localhost", Instant.now()), "TLSv1.3"))
                    .isFalse();
        }
    }

    @Test
    void whatIsSaidOverTheNetworkIsReadBackAndNothingElseIsUnderstood() {
        ActorSystem<Void> system =
                GridSystem.start(new GridTls(invitation(Invitation.WORKER, 1), Instant.now()), "127.0.0.1", 0);
        try {
            Serialization serialization = SerializationExtension.get(Adapter.toClassic(system));
            Spoken.Order order = new Spoken.Order(
                    4, "{}", "Test", Map.of("key", "x"), Set.of("h"), Set.of(), 0, 2, 0, 3, "digest", 1);
            for (Object message : List.of(
                    order,
                    new Spoken.Piece(3, new byte[] {1, 2, 3}),
                    new Spoken.Begin(4, -5),
                    new Spoken.TakeOver(List.of(1, 2)),
                    new Spoken.EndNow(),
                    new Spoken.Finished("id", 4, 1.5))) {
                Serializer by = serialization.findSerializerFor(message);
                byte[] bytes = by.toBinary(message);
                Object read = serialization
                        .deserialize(bytes, by.identifier(), manifest(message))
                        .get();
                assertThat(read).usingRecursiveComparison().isEqualTo(message);
            }
            assertThat(order.toString()).doesNotContain("key").doesNotContain("x,");
            int jackson = serialization.findSerializerFor(order).identifier();
            byte[] bytes = serialization.findSerializerFor(order).toBinary(order);
            assertThat(serialization
                            .deserialize(bytes, jackson, Stranger.class.getName())
                            .isFailure())
                    .isTrue();
            assertThat(serialization
                            .deserialize(bytes, jackson, "java.lang.ProcessBuilder")
                            .isFailure())
                    .isTrue();
            assertThat(serialization.serialize(new Stranger("x")).isFailure()).isTrue();
        } finally {
            GridSystem.end(system);
        }
    }

    private static String manifest(Object message) {
        return message.getClass().getName();
    }

    /** Not on the list. */
    record Stranger(@JsonProperty String text) implements java.io.Serializable {}
}
