package dev.mockbell.demo.fronts;

import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpContext;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpPrincipal;
import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.URI;

/** An exchange whose request is another than came, and whose response is held back until it has been looked at. */
final class HeldExchange extends HttpExchange {
    private final HttpExchange exchange;
    private final Headers headers = new Headers();
    private final ContentSink response = new ContentSink();
    private InputStream request;
    private int code = -1;

    HeldExchange(HttpExchange exchange, Content body) throws IOException {
        this.exchange = exchange;
        this.request = body.open();
        headers.putAll(exchange.getRequestHeaders());
    }

    /** What was answered. */
    Content answered() {
        return response.content();
    }

    /** The status of the answer. */
    int status() {
        return code;
    }

    /** Lets the answer go out, with another body. */
    void release(Content body) throws IOException {
        boolean empty = body.isEmpty();
        exchange.sendResponseHeaders(code, empty ? -1 : body.size());
        if (!empty) {
            try (InputStream in = body.open();
                    OutputStream out = exchange.getResponseBody()) {
                in.transferTo(out);
            }
        }
        exchange.close();
    }

    @Override
    public Headers getRequestHeaders() {
        return headers;
    }

    @Override
    public Headers getResponseHeaders() {
        return exchange.getResponseHeaders();
    }

    @Override
    public URI getRequestURI() {
        return exchange.getRequestURI();
    }

    @Override
    public String getRequestMethod() {
        return exchange.getRequestMethod();
    }

    @Override
    public HttpContext getHttpContext() {
        return exchange.getHttpContext();
    }

    @Override
    public void close() {
        // what was answered has yet to be looked at
    }

    @Override
    public InputStream getRequestBody() {
        return request;
    }

    @Override
    public OutputStream getResponseBody() {
        return response;
    }

    @Override
    public void sendResponseHeaders(int status, long length) {
        code = status;
    }

    @Override
    public InetSocketAddress getRemoteAddress() {
        return exchange.getRemoteAddress();
    }

    @Override
    public int getResponseCode() {
        return code;
    }

    @Override
    public InetSocketAddress getLocalAddress() {
        return exchange.getLocalAddress();
    }

    @Override
    public String getProtocol() {
        return exchange.getProtocol();
    }

    @Override
    public Object getAttribute(String name) {
        return exchange.getAttribute(name);
    }

    @Override
    public void setAttribute(String name, Object value) {
        exchange.setAttribute(name, value);
    }

    @Override
    public void setStreams(InputStream in, OutputStream out) {
        request = in == null ? request : in;
    }

    @Override
    public HttpPrincipal getPrincipal() {
        return exchange.getPrincipal();
    }
}
