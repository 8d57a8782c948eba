package dev.mockbell.demo;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpHandler;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** A page that lists services by their WSDLs, as servers of SOAP have one; one of its links has grown old. */
final class ListPage implements HttpHandler {
    private final String page;

    /** @param paths of the services */
    ListPage(List<String> paths) {
        StringBuilder text = new StringBuilder(
                "<!DOCTYPE html><html><head><title>Northfell services</title></head><body><h1>Northfell services</h1><ul>");
        paths.forEach(p -> text.append("<li><a href=\"")
                .append(p)
                .append("?wsdl\">")
                .append(p.substring(1))
                .append("</a></li>"));
        page = text.append("<li><a href=\"/weather?wsdl\">weather</a></li></ul></body></html>")
                .toString();
    }

    @Override
    public void handle(HttpExchange exchange) throws IOException {
        boolean here = "/".equals(exchange.getRequestURI().getPath());
        byte[] body = (here ? page : "There is no such page.").getBytes(StandardCharsets.UTF_8);
        exchange.getRequestBody().readAllBytes();
        exchange.getResponseHeaders().set("Content-Type", (here ? "text/html" : "text/plain") + "; charset=utf-8");
        exchange.sendResponseHeaders(here ? 200 : 404, body.length);
        exchange.getResponseBody().write(body);
        exchange.close();
    }
}
