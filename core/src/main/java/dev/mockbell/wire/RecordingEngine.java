package dev.mockbell.wire;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.function.BiFunction;
import java.util.function.Supplier;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLEngineResult;
import javax.net.ssl.SSLEngineResult.HandshakeStatus;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLSession;

/** An engine of TLS that records the plain bytes which another one encrypts and decrypts. */
final class RecordingEngine extends SSLEngine {
    private final SSLEngine engine;
    private final Supplier<Recording> recording;

    RecordingEngine(SSLEngine engine, Supplier<Recording> recording) {
        super(engine.getPeerHost(), engine.getPeerPort());
        this.engine = engine;
        this.recording = recording;
    }

    @Override
    public SSLEngineResult wrap(ByteBuffer[] plain, int offset, int length, ByteBuffer encrypted) throws SSLException {
        int[] from = positions(plain, offset, length);
        SSLEngineResult result = engine.wrap(plain, offset, length, encrypted);
        keep(recording.get()::sent, plain, offset, from);
        return result;
    }

    @Override
    public SSLEngineResult unwrap(ByteBuffer encrypted, ByteBuffer[] plain, int offset, int length)
            throws SSLException {
        int[] from = positions(plain, offset, length);
        SSLEngineResult result = engine.unwrap(encrypted, plain, offset, length);
        keep(recording.get()::received, plain, offset, from);
        return result;
    }

    /** Takes down a direction of a connection. */
    private interface Keeper {
        void keep(ByteBuffer buffer, int from, int count) throws IOException;
    }

    private static void keep(Keeper keeper, ByteBuffer[] plain, int offset, int[] from) throws SSLException {
        try {
            for (int i = 0; i < from.length; i++) {
                ByteBuffer buffer = plain[offset + i];
                keeper.keep(buffer, from[i], buffer.position() - from[i]);
            }
        } catch (IOException e) {
            throw new SSLException("what passes cannot be kept", e);
        }
    }

    private static int[] positions(ByteBuffer[] buffers, int offset, int length) {
        int[] from = new int[length];
        for (int i = 0; i < length; i++) {
            from[i] = buffers[offset + i].position();
        }
        return from;
    }

    @Override
    public Runnable getDelegatedTask() {
        return engine.getDelegatedTask();
    }

    @Override
    public void closeInbound() throws SSLException {
        engine.closeInbound();
    }

    @Override
    public boolean isInboundDone() {
        return engine.isInboundDone();
    }

    @Override
    public void closeOutbound() {
        engine.closeOutbound();
    }

    @Override
    public boolean isOutboundDone() {
        return engine.isOutboundDone();
    }

    @Override
    public String[] getSupportedCipherSuites() {
        return engine.getSupportedCipherSuites();
    }

    @Override
    public String[] getEnabledCipherSuites() {
        return engine.getEnabledCipherSuites();
    }

    @Override
    public void setEnabledCipherSuites(String[] suites) {
        engine.setEnabledCipherSuites(suites);
    }

    @Override
    public String[] getSupportedProtocols() {
        return engine.getSupportedProtocols();
    }

    @Override
    public String[] getEnabledProtocols() {
        return engine.getEnabledProtocols();
    }

    @Override
    public void setEnabledProtocols(String[] protocols) {
        engine.setEnabledProtocols(protocols);
    }

    @Override
    public SSLSession getSession() {
        return engine.getSession();
    }

    @Override
    public SSLSession getHandshakeSession() {
        return engine.getHandshakeSession();
    }

    @Override
    public void beginHandshake() throws SSLException {
        engine.beginHandshake();
    }

    @Override
    public HandshakeStatus getHandshakeStatus() {
        return engine.getHandshakeStatus();
    }

    @Override
    public void setUseClientMode(boolean mode) {
        engine.setUseClientMode(mode);
    }

    @Override
    public boolean getUseClientMode() {
        return engine.getUseClientMode();
    }

    @Override
    public void setNeedClientAuth(boolean need) {
        engine.setNeedClientAuth(need);
    }

    @Override
    public boolean getNeedClientAuth() {
        return engine.getNeedClientAuth();
    }

    @Override
    public void setWantClientAuth(boolean want) {
        engine.setWantClientAuth(want);
    }

    @Override
    public boolean getWantClientAuth() {
        return engine.getWantClientAuth();
    }

    @Override
    public void setEnableSessionCreation(boolean flag) {
        engine.setEnableSessionCreation(flag);
    }

    @Override
    public boolean getEnableSessionCreation() {
        return engine.getEnableSessionCreation();
    }

    @Override
    public SSLParameters getSSLParameters() {
        return engine.getSSLParameters();
    }

    @Override
    public void setSSLParameters(SSLParameters parameters) {
        engine.setSSLParameters(parameters);
    }

    @Override
    public String getApplicationProtocol() {
        return engine.getApplicationProtocol();
    }

    @Override
    public String getHandshakeApplicationProtocol() {
        return engine.getHandshakeApplicationProtocol();
    }

    @Override
    public void setHandshakeApplicationProtocolSelector(BiFunction<SSLEngine, List<String>, String> selector) {
        engine.setHandshakeApplicationProtocolSelector(selector);
    }

    @Override
    public BiFunction<SSLEngine, List<String>, String> getHandshakeApplicationProtocolSelector() {
        return engine.getHandshakeApplicationProtocolSelector();
    }
}
