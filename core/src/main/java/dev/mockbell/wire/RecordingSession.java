package dev.mockbell.wire;

import java.io.IOException;
import java.net.SocketAddress;
import java.nio.ByteBuffer;
import java.nio.channels.ByteChannel;
import java.util.concurrent.locks.Lock;
import java.util.function.Supplier;
import org.apache.hc.core5.io.CloseMode;
import org.apache.hc.core5.reactor.Command;
import org.apache.hc.core5.reactor.IOEventHandler;
import org.apache.hc.core5.reactor.IOSession;
import org.apache.hc.core5.util.Timeout;

/** Stands between the HTTP library and a connection without TLS, and records the bytes that pass. */
final class RecordingSession implements IOSession {
    private final IOSession session;
    private final Supplier<Recording> recording;

    /** Whether what passes is ours, and no longer what leads through a proxy of SOCKS. */
    private boolean through;

    /** @param socks whether the first bytes are for a proxy (RFC 1928), not for the server */
    RecordingSession(IOSession session, Supplier<Recording> recording, boolean socks) {
        this.session = session;
        this.recording = recording;
        this.through = !socks;
    }

    @Override
    public int read(ByteBuffer to) throws IOException {
        int from = to.position();
        int count = session.read(to);
        if (through) {
            recording.get().received(to, from, count);
        }
        return count;
    }

    @Override
    public int write(ByteBuffer source) throws IOException {
        int from = source.position();
        // a request begins with the letters of its method, and nothing of SOCKS with a letter
        through |= source.hasRemaining() && source.get(from) >= 'A';
        int count = session.write(source);
        if (through) {
            recording.get().sent(source, from, count);
        }
        return count;
    }

    @Override
    public IOEventHandler getHandler() {
        return session.getHandler();
    }

    @Override
    public void upgrade(IOEventHandler handler) {
        session.upgrade(handler);
    }

    @Override
    public Lock getLock() {
        return session.getLock();
    }

    @Override
    public void enqueue(Command command, Command.Priority priority) {
        session.enqueue(command, priority);
    }

    @Override
    public boolean hasCommands() {
        return session.hasCommands();
    }

    @Override
    public Command poll() {
        return session.poll();
    }

    @Override
    public ByteChannel channel() {
        return session.channel();
    }

    @Override
    public SocketAddress getRemoteAddress() {
        return session.getRemoteAddress();
    }

    @Override
    public SocketAddress getLocalAddress() {
        return session.getLocalAddress();
    }

    @Override
    public int getEventMask() {
        return session.getEventMask();
    }

    @Override
    public void setEventMask(int ops) {
        session.setEventMask(ops);
    }

    @Override
    public void setEvent(int op) {
        session.setEvent(op);
    }

    @Override
    public void clearEvent(int op) {
        session.clearEvent(op);
    }

    @Override
    public void close() {
        session.close();
    }

    @Override
    public void close(CloseMode mode) {
        session.close(mode);
    }

    @Override
    public Status getStatus() {
        return session.getStatus();
    }

    @Override
    public Timeout getSocketTimeout() {
        return session.getSocketTimeout();
    }

    @Override
    public void setSocketTimeout(Timeout timeout) {
        session.setSocketTimeout(timeout);
    }

    @Override
    public long getLastReadTime() {
        return session.getLastReadTime();
    }

    @Override
    public long getLastWriteTime() {
        return session.getLastWriteTime();
    }

    @Override
    public long getLastEventTime() {
        return session.getLastEventTime();
    }

    @Override
    public void updateReadTime() {
        session.updateReadTime();
    }

    @Override
    public void updateWriteTime() {
        session.updateWriteTime();
    }

    @Override
    public String getId() {
        return session.getId();
    }

    @Override
    public boolean isOpen() {
        return session.isOpen();
    }
}
