package dev.mockbell.wire;

import java.nio.ByteBuffer;
import java.security.GeneralSecurityException;
import java.util.function.BooleanSupplier;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLEngineResult.HandshakeStatus;
import javax.net.ssl.SSLException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Agreements upon TLS (RFC 8446 §2) between two sides in this process's memory, so that the first ones with somebody else are as
 * quick as later ones: new, each costs some twenty times what it does in the end.
 */
public final class Handshakes {
    private static final Logger LOG = LoggerFactory.getLogger(Handshakes.class);

    /** More messages than any agreement has. */
    private static final int MOST_TURNS = 100;

    private Handshakes() {}

    /**
     * Agrees again and again, by a key that nobody else knows. Work.
     *
     * @param enough is asked after each
     */
    public static void practise(BooleanSupplier enough) {
        try {
            SelfIssued key = SelfIssued.made();
            SSLContext client = key.trust().context();
            while (!enough.getAsBoolean()) {
                agree(client.createSSLEngine("localhost", 1), key.server().createSSLEngine());
            }
        } catch (GeneralSecurityException | SSLException e) {
            LOG.info("no practice of TLS: {}", e.toString());
        }
    }

    /** One agreement, whole: that is when the client has had what the server says behind it too. */
    private static void agree(SSLEngine client, SSLEngine server) throws SSLException {
        client.setUseClientMode(true);
        server.setUseClientMode(false);
        int room = client.getSession().getPacketBufferSize();
        ByteBuffer toServer = ByteBuffer.allocate(2 * room);
        ByteBuffer toClient = ByteBuffer.allocate(2 * room);
        ByteBuffer plain = ByteBuffer.allocate(2 * client.getSession().getApplicationBufferSize());
        client.beginHandshake();
        server.beginHandshake();
        for (int i = 0; i < MOST_TURNS && (isUnderWay(client) || isUnderWay(server)); i++) {
            step(client, toClient, toServer, plain);
            step(server, toServer, toClient, plain);
        }
        if (isUnderWay(client) || isUnderWay(server)) {
            throw new SSLException("the two sides came to no agreement");
        }
    }

    private static boolean isUnderWay(SSLEngine side) {
        return side.getHandshakeStatus() != HandshakeStatus.NOT_HANDSHAKING;
    }

    private static void step(SSLEngine side, ByteBuffer in, ByteBuffer out, ByteBuffer plain) throws SSLException {
        switch (side.getHandshakeStatus()) {
            case NEED_TASK -> {
                for (Runnable task = side.getDelegatedTask(); task != null; task = side.getDelegatedTask()) {
                    task.run();
                }
            }
            case NEED_WRAP -> side.wrap(ByteBuffer.allocate(0), out);
            default -> {
                in.flip();
                side.unwrap(in, plain.clear());
                in.compact();
            }
        }
    }
}
