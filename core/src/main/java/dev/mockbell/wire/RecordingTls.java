package dev.mockbell.wire;

import java.security.KeyManagementException;
import java.security.SecureRandom;
import java.util.function.Supplier;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLContextSpi;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLServerSocketFactory;
import javax.net.ssl.SSLSessionContext;
import javax.net.ssl.SSLSocketFactory;
import javax.net.ssl.TrustManager;

/** A TLS context whose engines record what passes through them in the clear. */
final class RecordingTls extends SSLContext {
    /**
     * @param context does the work
     * @param recording of the call under way
     */
    RecordingTls(SSLContext context, Supplier<Recording> recording) {
        super(new Spi(context, recording), context.getProvider(), context.getProtocol());
    }

    private static final class Spi extends SSLContextSpi {
        private final SSLContext context;
        private final Supplier<Recording> recording;

        Spi(SSLContext context, Supplier<Recording> recording) {
            this.context = context;
            this.recording = recording;
        }

        @Override
        protected SSLEngine engineCreateSSLEngine() {
            recording.get().securing();
            return new RecordingEngine(context.createSSLEngine(), recording);
        }

        @Override
        protected SSLEngine engineCreateSSLEngine(String host, int port) {
            recording.get().securing();
            return new RecordingEngine(context.createSSLEngine(host, port), recording);
        }

        @Override
        protected void engineInit(KeyManager[] keys, TrustManager[] trust, SecureRandom random)
                throws KeyManagementException {
            throw new KeyManagementException("the context is set up already");
        }

        @Override
        protected SSLSocketFactory engineGetSocketFactory() {
            return context.getSocketFactory();
        }

        @Override
        protected SSLServerSocketFactory engineGetServerSocketFactory() {
            return context.getServerSocketFactory();
        }

        @Override
        protected SSLSessionContext engineGetServerSessionContext() {
            return context.getServerSessionContext();
        }

        @Override
        protected SSLSessionContext engineGetClientSessionContext() {
            return context.getClientSessionContext();
        }

        @Override
        protected SSLParameters engineGetDefaultSSLParameters() {
            return context.getDefaultSSLParameters();
        }

        @Override
        protected SSLParameters engineGetSupportedSSLParameters() {
            return context.getSupportedSSLParameters();
        }
    }
}
