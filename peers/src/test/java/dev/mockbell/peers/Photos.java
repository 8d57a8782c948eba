package dev.mockbell.peers;

import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebService;
import java.nio.charset.StandardCharsets;

/** Binary values, which a stack with MTOM takes out of its answers. */
@WebService(targetNamespace = "urn:northfell:peers")
public class Photos {
    @WebMethod
    public byte[] photo(@WebParam(name = "hut") String hut) {
        return ("a photo of " + hut).repeat(1_000).getBytes(StandardCharsets.UTF_8);
    }

    @WebMethod
    public byte[] copy(@WebParam(name = "photo") byte[] photo) {
        return photo;
    }
}
