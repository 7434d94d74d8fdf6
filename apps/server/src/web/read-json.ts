import { FormatError, readJson } from '@abyssal/core';
import express, { type RequestHandler } from 'express';
import { Refusal } from '../problem/problem.js';

const parse: RequestHandler = (request, _response, next) => {
  const text: unknown = request.body;
  if (typeof text !== 'string') {
    next();
    return;
  }
  try {
    request.body = text === '' ? {} : readJson(text);
    next();
  } catch (error) {
    next(
      error instanceof FormatError
        ? new Refusal(422, 'too-much', `The request cannot be a sound: ${error.message}.`)
        : new Refusal(400, 'not-json', 'The request is not valid JSON.'),
    );
  }
};

/** Reads bodies of JSON, which are held against the bounds of a sound before they are parsed. */
export const jsonBodies: readonly RequestHandler[] = [
  express.text({ type: 'application/json', limit: '4mb', defaultCharset: 'utf-8' }),
  parse,
];
